#include "serve/edits.h"

#include <set>

#include "base/utf8.h"
#include "report/text.h"
#include "serve/uris.h"

namespace yc::serve {

namespace {

constexpr const char* kCertain = "certain";
constexpr const char* kLikely = "likely";
constexpr const char* kNext = "do it with yellow-compass move instead";

class EditMaker {
 public:
  EditMaker(const Asked& asked, const Plan& plan) : asked_(asked), texts_(asked) {
    for (const PlannedEdit& edit : plan.edit_list) {
      if (edit.likely) likely_.emplace(edit.file, edit.span);
    }
  }

  Status add(const RelPath& file, const FileEdits& edits) {
    const Entry* entry = asked_.workspace.tree().find(file);
    if (!entry || entry->kind != EntryKind::file)
      return Error{Failure::unsettled, file.str(),
                   "is a link whose text must change, which an editor cannot do", kNext};
    json list = json::array();
    for (const FileEdits::Item& item : edits.items()) {
      if (!is_utf8(item.text))
        return Error{Failure::unsettled, report::place_text(file, item.span, asked_.workspace.tree()),
                     "needs a text that is not UTF-8, which an editor cannot be told", kNext};
      json one = {{"range", texts_.range(file, item.span)}, {"newText", item.text}};
      if (asked_.client.takes_annotations)
        one["annotationId"] = likely_.contains({file, item.span}) ? kLikely : kCertain;
      list.push_back(std::move(one));
    }
    if (!asked_.client.takes_versions) {
      changes_[asked_.uri(file)] = std::move(list);
      return {};
    }
    steps_.push_back({{"textDocument", {{"uri", asked_.uri(file)}, {"version", asked_.version(file)}}},
                      {"edits", std::move(list)}});
    return {};
  }

  Status add(const Move& move) {
    if (!asked_.client.can_rename)
      return Error{Failure::unsettled, move.from.str(),
                   "goes along with what is moved, which this editor cannot be told", kNext};
    steps_.push_back({{"kind", "rename"},
                      {"oldUri", asked_.uri(move.from)},
                      {"newUri", uri_of(asked_.workspace.absolute(move.to))},
                      {"options", {{"overwrite", false}}}});
    return {};
  }

  json finish() {
    if (!asked_.client.takes_versions) return {{"changes", changes_.is_null() ? json::object() : changes_}};
    json out = {{"documentChanges", steps_}};
    if (asked_.client.takes_annotations) {
      out["changeAnnotations"] = {
          {kCertain, {{"label", "Names what moves"}, {"needsConfirmation", false}}},
          {kLikely,
           {{"label", "Most likely names what moves"},
            {"needsConfirmation", true},
            {"description", "A text in code or in an unknown setting that leads there"}}}};
    }
    return out;
  }

 private:
  const Asked& asked_;
  FileTexts texts_;
  std::set<std::pair<RelPath, Span>> likely_;
  json changes_, steps_ = json::array();
};

}  // namespace

Result<json> workspace_edit(const Asked& asked, const Plan& plan, const std::vector<Move>& along) {
  EditMaker maker(asked, plan);
  if (!plan.changes.empty()) {
    const RelPath& path =
        plan.changes.made.empty() ? *plan.changes.dropped.begin() : plan.changes.made.begin()->first;
    return Error{Failure::unsettled, path.str(), "comes or goes with this move, which an editor is not told",
                 kNext};
  }
  std::set<RelPath> files;  // in order
  for (const auto& [file, edits] : plan.edits) {
    if (!edits.empty()) files.insert(file);
  }
  for (const RelPath& file : files) {
    if (Status ok = maker.add(file, plan.edits.at(file)); !ok) return ok.error();
  }
  for (const Move& move : along) {
    if (Status ok = maker.add(move); !ok) return ok.error();
  }
  return maker.finish();
}

}  // namespace yc::serve
