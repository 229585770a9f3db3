#include "formats/rust/rust_cursor.h"

namespace yc::rust {

Cursor::Cursor(std::string_view bytes) : bytes_(bytes) {
  tokens_.reserve(bytes.size() / 4 + 2);
  Tokens source(bytes);
  do tokens_.push_back(source.next());
  while (tokens_.back().kind != TokenKind::end);
}

}  // namespace yc::rust
