// Digests of contents as journals hold them: BLAKE2b (RFC 7693) with 32 bytes, written as 64 hexadecimal
// digits. Nobody can make other bytes that fit one.
#pragma once

#include <memory>
#include <string>
#include <string_view>

namespace yc {

class Digest {
 public:
  Digest();
  ~Digest();
  Digest(const Digest&) = delete;
  Digest& operator=(const Digest&) = delete;
  void add(std::string_view bytes);
  std::string text();  // once, at the end

 private:
  struct State;
  std::unique_ptr<State> state_;
};

std::string digest_of(std::string_view bytes);

}  // namespace yc
