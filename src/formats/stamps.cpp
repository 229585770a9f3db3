#include "formats/stamps.h"

#include <random>

namespace yc {

Stamps::Stamps() {
  std::random_device random;
  seed_ = (static_cast<std::uint64_t>(random()) << 32U) | random();
}

void add_bytes(std::string& key, const std::string& bytes) {
  add_number(key, bytes.size());
  key += bytes;
}

void add_text(std::string& key, const TracedText& text) {
  add_number(key, text.pieces().size());
  for (const Piece& piece : text.pieces()) {
    add_bytes(key, piece.text);
    add_number(key, piece.nature);
    add_number(key, piece.file);
    add_number(key, piece.span);
    add_number(key, piece.style);
    add_number(key, piece.anchor);
    key += piece.verbatim ? 'v' : '-';
    key += piece.automatic ? 'a' : '-';
    add_number(key, piece.via.size());
    for (const Passage& passage : piece.via) {
      add_number(key, passage.file);
      add_number(key, passage.span);
    }
  }
}

void add_site(std::string& key, const Site& site) {
  add_number(key, site.file);
  add_number(key, site.offset);
}

void add_base(std::string& key, const Base& base) {
  add_bytes(key, base.folder.str());
  add_number(key, base.anchor);
  add_number(key, base.space);
  add_number(key, base.levels);
}

}  // namespace yc
