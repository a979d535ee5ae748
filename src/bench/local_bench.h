#pragma once

#include "bench/bench_connection.h"
#include "bench/file_tree.h"

namespace bench {

/// The machine that the program runs on.
class LocalBench final : public BenchConnection {
 public:
  /// `root` is put before the paths of files that are read: "" for this machine, or a folder that stands for one.
  explicit LocalBench(std::string root = "") : files_(std::move(root)) {}

  [[nodiscard]] core::Result<std::string> readFile(const std::string& path) const override { return files_.read(path); }
  [[nodiscard]] core::Result<std::vector<std::string>> listFolder(const std::string& path) const override {
    return files_.list(path);
  }
  [[nodiscard]] core::Result<std::string> realPath(const std::string& path) const override {
    return files_.realPath(path);
  }
  core::Status writeFile(const std::string& path, const std::string& text) override { return files_.write(path, text); }
  [[nodiscard]] core::Result<std::string> findProgram(const std::string& name,
                                                      const std::string& folder) const override;
  [[nodiscard]] std::unique_ptr<RunningCommand> start(const CommandOrder& order) override;

 private:
  FileTree files_;
};

}  // namespace bench
