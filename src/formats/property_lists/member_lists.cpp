#include "formats/property_lists/member_lists.h"

#include <algorithm>
#include <cctype>

#include "base/hash.h"
#include "formats/property_lists/project_objects.h"

namespace yc::plist {

namespace {

// Every line, or object, in which a file stands.
class Lines {
 public:
  Lines(const ReferenceGraph& graph, const Reference& member, const TreeReader& tree)
      : project_(graph.files.path(member.construct.back().file)) {
    auto bytes = tree.read(project_);
    if (!bytes) return;
    bytes_ = *bytes;
    parsed_ = parse(*bytes_);
    if (!parsed_.value) return;
    objects_ = read_objects(*parsed_.value, *bytes_, member.construct.back().file);
    for (const auto& [identifier, node] : objects_.nodes) {
      const Value* path = node.object->get("path");
      if (path && path->span.begin == member.construct.back().offset) own_ = &node;
    }
  }

  const Node* own() const { return own_; }
  const RelPath& project() const { return project_; }
  const std::string& bytes() const { return *bytes_; }
  const ProjectObjects& objects() const { return objects_; }

  // Identifiers of the build files of a file.
  std::vector<std::string> builds() const {
    std::vector<std::string> out;
    for (const auto& [identifier, object] : objects_.objects) {
      if (object->get_text("isa") == "PBXBuildFile" && object->get_text("fileRef") == own_->identifier)
        out.push_back(identifier);
    }
    return out;
  }

  // The lines that an object's definition takes.
  std::optional<Span> definition(const std::string& identifier) const {
    auto found = objects_.objects.find(identifier);
    return found == objects_.objects.end() ? std::nullopt : lines_of(found->second->span);
  }

  // The lines on which an identifier is an element of a list.
  std::vector<Span> elements(const std::string& identifier) const {
    std::vector<Span> out;
    for (const auto& [name, object] : objects_.objects) {
      for (const char* list : {"children", "files"}) {
        const Value* all = object->get(list);
        for (const Value& one : all ? all->elements : std::vector<Value>()) {
          if (one.text != identifier) continue;
          if (auto span = lines_of(one.span)) out.push_back(*span);
        }
      }
    }
    return out;
  }

 private:
  std::optional<Span> lines_of(Span span) const {
    std::size_t line = bytes_->rfind('\n', span.begin), end = bytes_->find('\n', span.end);
    if (line == std::string::npos || end == std::string::npos) return std::nullopt;
    return span_of(line + 1, end + 1);
  }

  RelPath project_;
  Bytes bytes_;
  Parsed parsed_;
  ProjectObjects objects_;
  const Node* own_ = nullptr;
};

void replace_all(std::string& text, const std::string& from, const std::string& to) {
  if (from.empty()) return;
  for (std::size_t at = text.find(from); at != std::string::npos; at = text.find(from, at + to.size()))
    text.replace(at, from.size(), to);
}

}  // namespace

std::vector<Edit> list_member(const ReferenceGraph& graph, const Reference& like, const RelPath& path,
                              const TreeReader& tree) {
  Lines lines(graph, like, tree);
  if (!lines.own()) return {};
  std::string sibling(like.targets.front().path.name()), name(path.name());
  std::vector<Edit> out;
  // A copy of each line with the identifiers and the name of the new file.
  std::vector<std::pair<std::string, std::string>> identifiers;
  auto fresh = [&](const std::string& of) {
    std::string text = content_hash(of + path.str()).substr(0, 24);
    std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) { return std::toupper(c); });
    identifiers.emplace_back(of, text);
  };
  fresh(lines.own()->identifier);
  for (const std::string& build : lines.builds()) fresh(build);
  for (const auto& [old_identifier, identifier] : identifiers) {
    if (lines.objects().objects.contains(identifier)) return {};
    std::vector<Span> spans = lines.elements(old_identifier);
    if (auto definition = lines.definition(old_identifier)) spans.push_back(*definition);
    for (const Span& span : spans) {
      std::string copy = lines.bytes().substr(span.begin, span.size());
      for (const auto& [from, to] : identifiers) replace_all(copy, from, to);
      replace_all(copy, sibling, name);
      out.push_back({lines.project(), {span.end, span.end}, copy, identifier});
    }
  }
  return out;
}

std::vector<Edit> unlist_member(const ReferenceGraph& graph, const Reference& member,
                                const TreeReader& tree) {
  Lines lines(graph, member, tree);
  if (!lines.own()) return {};
  std::vector<std::string> identifiers = lines.builds();
  identifiers.push_back(lines.own()->identifier);
  std::vector<Edit> out;
  for (const std::string& identifier : identifiers) {
    std::vector<Span> spans = lines.elements(identifier);
    if (auto definition = lines.definition(identifier)) spans.push_back(*definition);
    for (const Span& span : spans) out.push_back({lines.project(), span, ""});
  }
  return out;
}

}  // namespace yc::plist
