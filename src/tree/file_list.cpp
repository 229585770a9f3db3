#include "tree/file_list.h"

#include <algorithm>

namespace yc {

void FileList::add(RelPath path, EntryKind kind) {
  if (kind == EntryKind::link) links_.push_back(path);
  all_.push_back(std::move(path));
}

void FileList::settle() {
  for (std::vector<RelPath>* list : {&all_, &links_, &ignored_}) {
    if (!std::is_sorted(list->begin(), list->end())) std::sort(list->begin(), list->end());
  }
}

}  // namespace yc
