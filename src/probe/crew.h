#pragma once

#include <atomic>
#include <functional>
#include <thread>
#include <vector>

namespace probe {

/// Threads that are made once and then share work again and again. They are all there before the clock starts, begin
/// together, and the last one ends it.
class Crew {
 public:
  explicit Crew(int threads);
  ~Crew();
  Crew(const Crew&) = delete;
  Crew& operator=(const Crew&) = delete;

  [[nodiscard]] int threads() const { return static_cast<int>(others_.size()) + 1; }
  /// Seconds until each thread, this one among them, has done its share; `share` is told which, from 0.
  double secondsOf(const std::function<void(int)>& share);

 private:
  std::vector<std::thread> others_;
  const std::function<void(int)>* share_ = nullptr;
  std::atomic<int> round_ = 0;  ///< the others sleep until it changes
  std::atomic<int> ready_ = 0;
  std::atomic<int> started_ = 0;  ///< the round that may begin
  std::atomic<int> done_ = 0;
  bool is_over_ = false;

  void work(int which);
};

/// How many processors this program may use: a prefix such as taskset leaves it fewer than there are.
[[nodiscard]] int usableProcessors();

}  // namespace probe
