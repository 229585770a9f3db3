// Work on many independent things at once.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <future>
#include <thread>
#include <vector>

namespace yc {

// Calls work(0) to work(count - 1), each once, on all cores. It must be safe to call from several threads.
template <typename Work>
void on_all_cores(std::size_t count, const Work& work) {
  std::atomic<std::size_t> next = 0;
  auto run = [&] {
    for (std::size_t i = next++; i < count; i = next++) work(i);
  };
  constexpr unsigned kMost = 8;
  std::vector<std::future<void>> others;
  for (unsigned i = 1; i < std::min(kMost, std::thread::hardware_concurrency()) && i < count; ++i)
    others.push_back(std::async(std::launch::async, run));
  run();
}

}  // namespace yc
