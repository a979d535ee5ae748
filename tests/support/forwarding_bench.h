// This machine behind an interface of which a test changes what it needs.
#pragma once

#include "bench/local_bench.h"

namespace support {

class ForwardingBench : public bench::BenchConnection {
 public:
  /// `root` as of bench::LocalBench.
  explicit ForwardingBench(std::string root = "") : local_(std::move(root)) {}
  [[nodiscard]] core::Result<std::string> readFile(const std::string& path) const override {
    return local_.readFile(path);
  }
  [[nodiscard]] core::Result<std::vector<std::string>> listFolder(const std::string& path) const override {
    return local_.listFolder(path);
  }
  [[nodiscard]] core::Result<std::string> realPath(const std::string& path) const override {
    return local_.realPath(path);
  }
  core::Status writeFile(const std::string& path, const std::string& text) override {
    return local_.writeFile(path, text);
  }
  [[nodiscard]] core::Result<std::string> findProgram(const std::string& name,
                                                      const std::string& folder) const override {
    return local_.findProgram(name, folder);
  }
  [[nodiscard]] std::unique_ptr<bench::RunningCommand> start(const bench::CommandOrder& order) override {
    return local_.start(order);
  }

 private:
  bench::LocalBench local_;
};

}  // namespace support
