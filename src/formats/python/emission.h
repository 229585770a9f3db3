// What a reader of a Python source adds to the graph.
#pragma once

#include <string>
#include <string_view>

#include "formats/python/python_references.h"

namespace yc::python {

class Emission {
 public:
  Emission(const Source& source, GraphBuilder& out)
      : source_(source), out_(out), file_(out.files().index(source.path)), whole_(out.wants(source.path)) {}

  const Source& source() const { return source_; }
  // Whether anything is asked of a dotted name, or of the whole source.
  bool wants(const std::string& dotted) const;
  // The text of a token; empty behind the last.
  std::string_view word_at(std::size_t index) const;
  // A reference by the name at `span`, of the construct at `site`, that leads nowhere yet.
  Reference reference_at(std::uint32_t site, Span span) const;
  void add(Reference reference) { out_.add(std::move(reference)); }
  // Adds it, leading to a module.
  void lead(Reference reference, const Found& found);
  void unmet(Unmet text) { out_.unmet(std::move(text)); }
  // Adds a hole: a module of the package in `folder`, whose name is known only when the program runs, but for
  // how it begins.
  void unseen(const RelPath& folder, Span span, const std::string& name = "");
  // Whether only some files and names are asked for, this stem among them.
  bool is_confined_to(const std::string& stem) const {
    return out_.focus() && out_.focus()->stems.contains(stem);
  }

 private:
  const Source& source_;
  GraphBuilder& out_;
  FileIndex file_;
  bool whole_;
};

// The folder whose modules are a package's.
RelPath folder_of(const Found& package);

}  // namespace yc::python
