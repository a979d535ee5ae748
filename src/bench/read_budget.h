#pragma once

#include <chrono>
#include <cstddef>
#include <stop_token>

#include "bench/bench_connection.h"

namespace bench {

/// What one reading of a machine may take in all: many times what the largest machine tells. A folder that stands for a
/// machine may be anybody's.
struct ReadBudget {
  std::size_t bytes = std::size_t{64} << 20;
  std::size_t looks = 200'000;  ///< at files, folders and links
  std::chrono::seconds time{30};
};

/// A machine that is read within a budget, and only until somebody asks for an end: everything behind it cannot be
/// read, and says why. For reading only. `bench` outlives it. Errors besides those of the bench: Busy
class BudgetedBench final : public BenchConnection {
 public:
  BudgetedBench(const BenchConnection& bench, ReadBudget budget, std::stop_token stop = {})
      : bench_(bench), budget_(budget), stop_(std::move(stop)) {}

  [[nodiscard]] core::Result<std::string> readFile(const std::string& path) const override;
  [[nodiscard]] core::Result<std::vector<std::string>> listFolder(const std::string& path) const override;
  [[nodiscard]] core::Result<std::string> realPath(const std::string& path) const override;
  core::Status writeFile(const std::string& path, const std::string& text) override;
  [[nodiscard]] core::Result<std::string> findProgram(const std::string& name,
                                                      const std::string& folder) const override {
    return bench_.findProgram(name, folder);
  }
  [[nodiscard]] std::unique_ptr<RunningCommand> start(const CommandOrder& order) override;

 private:
  /// One more look. Errors  Busy where the budget is used up, or the end was asked for
  [[nodiscard]] core::Status spend(const std::string& path) const;

  const BenchConnection& bench_;
  ReadBudget budget_;
  std::stop_token stop_;
  std::chrono::steady_clock::time_point begun_ = std::chrono::steady_clock::now();
  mutable std::size_t bytes_ = 0;
  mutable std::size_t looks_ = 0;
};

}  // namespace bench
