// One line of what the system call tracer strace writes (its manual, strace(1), and its options -f and -y).
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace yc {

// A call that has ended, put together where the tracer wrote it in two halves.
struct TracedCall {
  int process = 0;
  std::string name;
  std::string arguments;  // between the brackets, as written
  std::string result;     // behind the "=", as written
  bool succeeded() const { return !result.empty() && result.front() != '-' && result.front() != '?'; }
  // The number that the call gave, -1 if none.
  long number() const;
  // The path of the file that an open call gave, by the option -y; empty if none.
  std::string opened_path() const;
};

// Reads the arguments of a call from left to right.
class ArgumentReader {
 public:
  explicit ArgumentReader(std::string_view text) : rest_(text) {}
  // A quoted string, with its escapes undone; nothing if the next argument is none.
  std::optional<std::string> string();
  // The folder that a descriptor stands for, by the option -y; nothing if the next argument is none.
  std::optional<std::string> folder();
  // The strings of an array; empty if the next argument is none.
  std::vector<std::string> strings();
  // What is left, as written.
  std::string_view rest() const { return rest_; }

 private:
  void next();
  std::string_view rest_;
};

// The tracer's escapes (\n, \t, \", octal and hexadecimal numbers) undone.
std::string unescaped(std::string_view text);
// Where a string, which begins behind a quotation mark at the front of `text`, ends.
std::size_t string_end(std::string_view text);
// Takes "name(arguments) = result" apart; nothing if the text is no such call.
std::optional<TracedCall> parse_call(int process, std::string_view text);

}  // namespace yc
