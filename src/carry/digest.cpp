#include "carry/digest.h"

#include <fmt/format.h>
#include <sodium.h>

namespace yc {

struct Digest::State {
  crypto_generichash_state hash;
};

Digest::Digest() : state_(std::make_unique<State>()) {
  crypto_generichash_init(&state_->hash, nullptr, 0, crypto_generichash_BYTES);
}

Digest::~Digest() = default;

void Digest::add(std::string_view bytes) {
  crypto_generichash_update(&state_->hash, reinterpret_cast<const unsigned char*>(bytes.data()),
                            bytes.size());
}

std::string Digest::text() {
  unsigned char out[crypto_generichash_BYTES];
  crypto_generichash_final(&state_->hash, out, sizeof out);
  return fmt::format("{:02x}", fmt::join(out, out + sizeof out, ""));
}

std::string digest_of(std::string_view bytes) {
  Digest digest;
  digest.add(bytes);
  return digest.text();
}

}  // namespace yc
