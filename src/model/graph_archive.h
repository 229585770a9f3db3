// Graphs as bytes, to be kept between runs of one program. The bytes mean something to the very program that
// wrote them and to no other; who hands them in must know that they are its own.
#pragma once

#include <array>
#include <functional>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

// cereal writes members in the order in which they are named. Data beside an archive is a part of it that
// must be asked for.
#define CEREAL_FUTURE_EXPERIMENTAL
#include <cereal/archives/adapters.hpp>
#include <cereal/archives/binary.hpp>
#include <cereal/types/map.hpp>
#include <cereal/types/optional.hpp>
#include <cereal/types/set.hpp>
#include <cereal/types/string.hpp>
#include <cereal/types/utility.hpp>
#include <cereal/types/variant.hpp>
#include <cereal/types/vector.hpp>

#include "model/graph.h"

namespace yc {

// What stands in one archive once, however often it is used: paths of files, and lists of passages.
class ArchiveTables {
 public:
  explicit ArchiveTables(FileTable& files) : files_(files) {}

  // While it is written.
  std::uint32_t number_of(FileIndex file);
  const std::vector<RelPath>& paths() const { return paths_; }
  // The number of a list of passages, 0 if it has none yet; such a one is given the next.
  std::uint32_t known(const Passages& passages) const;
  void number(const Passages& passages);

  // While it is read. What the bytes lead to and is not there throws: they are not what they seem.
  void set_paths(const std::vector<RelPath>& paths);
  FileIndex file(std::uint32_t number) const { return number == 0 ? kNoFile : numbers_.at(number - 1); }
  const Passages& passages(std::uint32_t number) const { return lists_.at(number - 1); }
  void add(Passages passages) { lists_.push_back(std::move(passages)); }

 private:
  FileTable& files_;
  std::unordered_map<FileIndex, std::uint32_t> known_files_;
  std::vector<RelPath> paths_;
  std::vector<FileIndex> numbers_;
  std::unordered_map<const void*, std::uint32_t> known_lists_;
  std::vector<Passages> lists_;
};

// All that readers give; a tool is written by its number in this list, and known by its address once read.
inline constexpr std::array<BuildTool, 5> kBuildTools = {"", kBuildsInPlace, "cmake", "meson", "autotools"};

using Output = cereal::BinaryOutputArchive;
using Input = cereal::BinaryInputArchive;

// The bytes of what `write` puts into an archive.
std::string packed(ArchiveTables tables, const std::function<void(Output&)>& write);
// False if the bytes are cut off or are no such bytes.
bool unpack(std::string_view bytes, ArchiveTables tables, const std::function<void(Input&)>& read);

// A number of a file, which is another in each table.
struct FileNumber {
  FileIndex& file;
};
inline FileNumber number(FileIndex& file) {
  return {file};
}
inline FileNumber number(const FileIndex& file) {
  return {const_cast<FileIndex&>(file)};  // only read, where it is const
}

void save(Output& archive, const FileNumber& number);
void load(Input& archive, FileNumber& number);
void save(Output& archive, const RelPath& path);
void load(Input& archive, RelPath& path);
void save(Output& archive, const TracedText& text);
void load(Input& archive, TracedText& text);
void save(Output& archive, const Reference& reference);
void load(Input& archive, Reference& reference);
template <typename Archive>
void serialize(Archive& archive, Site& site) {
  archive(number(site.file), site.offset);
}
template <typename Archive>
void serialize(Archive& archive, Base& base) {
  archive(base.folder, number(base.anchor), base.space, base.levels);
}

// All of a graph but its table of files, and findings, which it must not have.
void save_graph(Output& archive, const ReferenceGraph& graph);
void load_graph(Input& archive, ReferenceGraph& graph);

}  // namespace yc
