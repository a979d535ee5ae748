#pragma once

#include <stop_token>
#include <string>

#include "bench/bench_connection.h"
#include "core/machine/fact.h"

namespace bench {

/// Reads everything that a machine says about itself and that may bear on a comparison. Every fact carries its value,
/// unit and source, or why it could not be read. Writes nothing; private numbers (serials, UUIDs) are not collected.
/// Within a ReadBudget, and until `stop` asks for an end: what is behind it is unreadable.
/// Cost  well under 300 ms on a desktop machine
[[nodiscard]] core::Capture captureBench(const BenchConnection& bench, std::stop_token stop = {});

/// A bench whose root-only files come from a folder that `iron-lever-root-facts` wrote, where the bench itself denies
/// them. `bench` outlives it.
class WithRootFacts final : public BenchConnection {
 public:
  /// Errors  Missing: no such folder; OutOfRange: it was written in another boot, so it may be out of date
  [[nodiscard]] static core::Result<WithRootFacts> open(BenchConnection& bench, const std::string& folder);

  [[nodiscard]] core::Result<std::string> readFile(const std::string& path) const override;
  [[nodiscard]] core::Result<std::vector<std::string>> listFolder(const std::string& path) const override {
    return bench_->listFolder(path);
  }
  [[nodiscard]] core::Result<std::string> realPath(const std::string& path) const override {
    return bench_->realPath(path);
  }
  core::Status writeFile(const std::string& path, const std::string& text) override {
    return bench_->writeFile(path, text);
  }
  [[nodiscard]] core::Result<std::string> findProgram(const std::string& name,
                                                      const std::string& folder) const override {
    return bench_->findProgram(name, folder);
  }
  [[nodiscard]] std::unique_ptr<RunningCommand> start(const CommandOrder& order) override {
    return bench_->start(order);
  }

 private:
  WithRootFacts(BenchConnection& bench, const std::string& folder);
  BenchConnection* bench_;
  std::shared_ptr<const BenchConnection> facts_;
};

}  // namespace bench
