// Values that may be errors: an Error names a place, says what is wrong and what to do next.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <utility>
#include <variant>

namespace yc {

// What kind of failure it is; the program turns it into its exit status.
enum class Failure : std::uint8_t {
  usage,      // the request itself is wrong, or an input cannot be read
  unsettled,  // the tree is not as it must be; nothing was changed
  io,         // reading or writing failed
};

struct Error {
  Failure failure = Failure::usage;
  std::string place;    // "file:line:column", a path, or empty
  std::string message;  // what is wrong
  std::string next;     // what to do next, may be empty
};

// Either a value or an Error.
template <typename T>
class [[nodiscard]] Result {
 public:
  Result(T value) : state_(std::move(value)) {}      // NOLINT(google-explicit-constructor)
  Result(Error error) : state_(std::move(error)) {}  // NOLINT(google-explicit-constructor)
  explicit operator bool() const { return state_.index() == 0; }
  T& operator*() & { return std::get<0>(state_); }
  const T& operator*() const& { return std::get<0>(state_); }
  T&& operator*() && { return std::get<0>(std::move(state_)); }
  T* operator->() { return &std::get<0>(state_); }
  const T* operator->() const { return &std::get<0>(state_); }
  const Error& error() const { return std::get<1>(state_); }

 private:
  std::variant<T, Error> state_;
};

// Success, or an Error.
class [[nodiscard]] Status {
 public:
  Status() = default;
  Status(Error error) : error_(std::move(error)) {}  // NOLINT(google-explicit-constructor)
  explicit operator bool() const { return !error_; }
  const Error& error() const { return *error_; }

 private:
  std::optional<Error> error_;
};

}  // namespace yc
