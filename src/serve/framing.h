// Messages on a stream of bytes: the base protocol of the Language Server Protocol 3.17 ("Base Protocol"), a
// header with the length, an empty line, and that many bytes of JSON.
#pragma once

#include <cstddef>
#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace yc::serve {

struct Frame {
  std::string body;
  std::string problem;  // what is wrong with it, if it cannot be taken in; then there is no body
};

// No message that an editor sends is longer; a longer one is read past, and told.
constexpr std::size_t kLongestMessage = 256'000'000;

class FrameReader {
 public:
  // Gives the next bytes of the stream, at most `most`; 0 at its end.
  using More = std::function<std::size_t(char* into, std::size_t most)>;
  explicit FrameReader(More more) : more_(std::move(more)) {}
  // The next message; nothing at the end of the stream, also in the middle of one. Behind bytes that are no
  // header it goes on where the next header begins.
  std::optional<Frame> next();

 private:
  bool fill();
  std::optional<std::string> line();
  std::optional<Frame> body(std::size_t length);

  More more_;
  std::string buffer_;
  std::size_t at_ = 0;  // where what is not taken yet begins
};

std::string framed(std::string_view body);

}  // namespace yc::serve
