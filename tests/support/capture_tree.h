#pragma once

#include <gtest/gtest.h>

#include <filesystem>
#include <map>

#include "bench/capture.h"
#include "bench/local_bench.h"

namespace support {

/// The tree of the invented machine at one of its settings: "gen4", "gen3", "gen4-idle".
inline std::string domeNode(const std::string& setting) {
  return std::filesystem::path(IRON_LEVER_FIXTURES) / "dome-node" / setting;
}

/// A bench from texts, and from errors that a still tree cannot show.
class FakedBench final : public bench::BenchConnection {
 public:
  std::map<std::string, std::string> files;
  std::map<std::string, int> errors;  ///< errno by path
  std::map<std::string, std::string> links;

  [[nodiscard]] core::Result<std::string> readFile(const std::string& path) const override {
    if (const auto error = errors.find(path); error != errors.end()) return bench::errorOfErrno(error->second, path);
    const auto file = files.find(path);
    return file == files.end() ? core::Result<std::string>(bench::errorOfErrno(ENOENT, path)) : file->second;
  }
  [[nodiscard]] core::Result<std::vector<std::string>> listFolder(const std::string& path) const override {
    std::vector<std::string> names;
    const auto take = [&](const std::string& full) {
      if (!full.starts_with(path + "/")) return;
      const std::string name = full.substr(path.size() + 1, full.find('/', path.size() + 1) - path.size() - 1);
      if (names.empty() || names.back() != name) names.push_back(name);
    };
    for (const auto& [full, text] : files) take(full);
    for (const auto& [full, code] : errors) take(full);
    std::sort(names.begin(), names.end());
    names.erase(std::unique(names.begin(), names.end()), names.end());
    if (names.empty()) return bench::errorOfErrno(ENOENT, path);
    return names;
  }
  [[nodiscard]] core::Result<std::string> realPath(const std::string& path) const override {
    const auto link = links.find(path);
    return link == links.end() ? path : link->second;
  }
  core::Status writeFile(const std::string& path, const std::string& text) override {
    files[path] = text;
    return core::Done{};
  }
  [[nodiscard]] core::Result<std::string> findProgram(const std::string& name, const std::string&) const override {
    return bench::errorOfErrno(ENOENT, name);
  }
  [[nodiscard]] std::unique_ptr<bench::RunningCommand> start(const bench::CommandOrder&) override { return nullptr; }
};

}  // namespace support
