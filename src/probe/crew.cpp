#include "probe/crew.h"

#include <sched.h>

#include <algorithm>

#include "probe/measurement.h"

namespace probe {
namespace {

// A moment's wait: going to sleep would cost more than it is long. With fewer processors than threads it lets others
// in.
template <class Holds>
void spinUntil(const Holds& holds) {
  while (!holds()) std::this_thread::yield();
}

}  // namespace

Crew::Crew(int threads) {
  for (int i = 1; i < threads; ++i) others_.emplace_back([this, i] { work(i); });
}

Crew::~Crew() {
  is_over_ = true;
  ++round_;
  round_.notify_all();
  for (std::thread& one : others_) one.join();
}

void Crew::work(int which) {
  for (int round = 0;;) {
    round_.wait(round);
    round = round_;
    if (is_over_) return;
    ++ready_;
    spinUntil([&] { return started_ == round; });
    (*share_)(which);
    ++done_;
  }
}

double Crew::secondsOf(const std::function<void(int)>& share) {
  const int others = threads() - 1;
  share_ = &share;
  ready_ = 0;
  done_ = 0;
  const int round = ++round_;
  round_.notify_all();
  spinUntil([&] { return ready_ == others; });
  return probe::secondsOf([&] {
    started_ = round;
    share(0);
    spinUntil([&] { return done_ == others; });
  });
}

int usableProcessors() {
  cpu_set_t set;
  CPU_ZERO(&set);
  return ::sched_getaffinity(0, sizeof set, &set) == 0 ? std::max(1, CPU_COUNT(&set)) : 1;
}

}  // namespace probe
