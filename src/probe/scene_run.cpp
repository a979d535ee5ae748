#include "probe/scene_run.h"

#include <atomic>
#include <barrier>
#include <thread>
#include <vector>

#include "probe/scene.h"

namespace probe {
namespace {

/// Threads that draw one picture together: each takes the next few rows until none are left.
class Painters {
 public:
  Painters(Scene& scene, int threads) : scene_(scene), gate_(threads) {
    for (int i = 1; i < threads; ++i) helpers_.emplace_back([this] { help(); });
  }
  ~Painters() {
    is_done_ = true;
    gate_.arrive_and_wait();
    for (std::thread& helper : helpers_) helper.join();
  }
  void paint(double position) {
    position_ = position;
    next_row_ = 0;
    gate_.arrive_and_wait();  // all start together
    takeRows();
    gate_.arrive_and_wait();  // and the frame is done when the last one is
  }

 private:
  void help() {
    for (;;) {
      gate_.arrive_and_wait();
      if (is_done_) return;
      takeRows();
      gate_.arrive_and_wait();
    }
  }
  void takeRows() {
    constexpr int kRows = 8;
    for (int row = next_row_.fetch_add(kRows); row < scene_.rows(); row = next_row_.fetch_add(kRows))
      scene_.drawRows(position_, row, std::min(row + kRows, scene_.rows()));
  }

  Scene& scene_;
  std::barrier<> gate_;
  std::atomic<int> next_row_{0};
  std::atomic<double> position_{0};
  std::atomic<bool> is_done_{false};
  std::vector<std::thread> helpers_;
};

}  // namespace

core::Result<SceneSummary> runScene(const SceneOptions& options) {
  if (options.threads < 1 || options.threads > 1024)
    return core::Error{core::ErrorKind::OutOfRange, "the options do not fit", "scene", "Use --threads 1 to 1024"};
  Scene scene(options.size);
  Painters painters(scene, options.threads);
  const auto count = runFrames(options.loop, "scene", [&](double position) -> core::Status {
    painters.paint(position);
    return core::Done{};
  });
  if (!count) return count.error();
  return SceneSummary{*count, scene.checksum()};
}

}  // namespace probe
