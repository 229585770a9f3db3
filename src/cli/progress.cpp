#include "cli/progress.h"

#include <fmt/format.h>
#include <unistd.h>

#include <chrono>
#include <condition_variable>
#include <cstdio>
#include <mutex>
#include <thread>

#include "report/timings.h"

namespace yc::cli {

namespace {

using Clock = std::chrono::steady_clock;

class Progress {
 public:
  explicit Progress(std::shared_ptr<Timings> timings)
      : timings_(std::move(timings)), thread_([this] { run(); }) {}
  ~Progress() {
    {
      std::lock_guard lock(mutex_);
      is_over_ = true;
    }
    over_.notify_all();
    thread_.join();
    if (is_drawn_) std::fputs("\r\033[K", stderr);
  }

 private:
  void run() {
    auto wait = std::chrono::milliseconds(500);
    Clock::time_point begin = Clock::now();
    std::unique_lock lock(mutex_);
    while (!over_.wait_for(lock, wait, [this] { return is_over_; })) {
      double seconds = std::chrono::duration<double>(Clock::now() - begin).count();
      std::string line = report::progress_text(timings_->now(), seconds);
      std::size_t width = terminal_width();
      if (width > 1 && line.size() >= width) line.resize(width - 1);
      std::fprintf(stderr, "\r\033[K%s", line.c_str());
      std::fflush(stderr);
      is_drawn_ = true;
      wait = std::chrono::milliseconds(100);
    }
  }

  std::shared_ptr<Timings> timings_;
  std::mutex mutex_;
  std::condition_variable over_;
  bool is_over_ = false, is_drawn_ = false;
  std::thread thread_;
};

// One command, one line.
std::unique_ptr<Progress>& current() {
  static std::unique_ptr<Progress> progress;
  return progress;
}

}  // namespace

void start_progress(const Options& options) {
  bool is_wanted = options.format == "text" && !options.quiet && isatty(STDERR_FILENO) && options.timings;
  if (is_wanted && !current()) current() = std::make_unique<Progress>(options.timings);
}

void stop_progress() {
  current().reset();
}

}  // namespace yc::cli
