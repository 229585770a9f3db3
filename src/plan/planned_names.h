// Names for the things of the planned tree.
#pragma once

#include <algorithm>
#include <string>

#include "base/edit.h"
#include "model/graph.h"
#include "tree/moves.h"

namespace yc {

// In the same words in which Image names where the old ones should be.
class PlannedNames {
 public:
  PlannedNames(const ReferenceGraph& graph, const MoveSet& moves, const EditMap& edits)
      : graph_(graph), moves_(moves), edits_(edits) {}

  // The edit that wrote the byte at a site; null if it stood there before.
  const FileEdits::Item* writer(const Site& site) const {
    if (site.file == kNoFile) return nullptr;
    auto edits = edits_.find(moves_.unmap_file(graph_.files.path(site.file)));
    return edits == edits_.end() ? nullptr : edits->second.bringer(site.offset);
  }

  std::string site(const Site& site) const {
    if (site.file == kNoFile) return "-";
    return graph_.files.path(site.file).str() + "@" + std::to_string(site.offset);
  }

  // For a construct that the plan wrote: the construct that it was put before. It does a part of that one's
  // work.
  std::string home(const Site& at) const {
    const FileEdits::Item* item = writer(at);
    if (!item) return site(at);
    const RelPath& path = graph_.files.path(at.file);
    return path.str() + "@" +
           std::to_string(edits_.find(moves_.unmap_file(path))->second.map(item->span.begin));
  }

  std::string key(const Reference& reference) const {
    if (reference.construct != last_chain_ || last_text_.empty()) {
      last_text_.clear();
      for (const Site& step : reference.construct) last_text_ += site(step) + ";";
      last_chain_ = reference.construct;
    }
    return last_text_ + reference.construct_part.str();
  }

  std::string home_key(const Reference& reference) const {
    std::string out;
    for (const Site& step : reference.construct) out += home(step) + ";";
    return out + reference.construct_part.str();
  }

  bool is_own(const Reference& reference) const {
    return std::any_of(reference.construct.begin(), reference.construct.end(),
                       [&](const Site& site) { return writer(site) != nullptr; });
  }

  // Whether all bytes that spell a reference were put in by the plan, beside what stood there.
  bool is_put_in(const Reference& reference) const {
    bool any = false;
    for (const Piece& piece : reference.text.pieces()) {
      if (!piece.has_origin()) continue;
      const FileEdits::Item* item = writer({piece.file, piece.span.begin});
      if (!item || item->span.size() > 0) return false;
      any = true;
    }
    return any;
  }

  std::string target(const Target& target) const {
    switch (target.kind) {
      case Target::Kind::tree:
        return "t:" + target.path.str();
      case Target::Kind::build:
        return "b:" + target.path.str();
      case Target::Kind::output:
        return "o:" + target.path.str();
      case Target::Kind::name:
        return "n:" + target.path.str();
      case Target::Kind::made:
        return "m:" + (target.path.is_root() ? home(target.site) : target.path.str());
    }
    return "";
  }

 private:
  const ReferenceGraph& graph_;
  const MoveSet& moves_;
  const EditMap& edits_;
  // References of one construct follow each other: its text is made once.
  mutable SiteChain last_chain_;
  mutable std::string last_text_;
};

}  // namespace yc
