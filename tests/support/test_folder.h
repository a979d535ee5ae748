#pragma once

#include <unistd.h>
#include <filesystem>
#include <fstream>
#include <sstream>
#include <string>

namespace support {

/// A folder of its own for one test, removed at the end.
class TestFolder {
 public:
  TestFolder() {
    // In memory where there is such a place: every commit is synced, and here no power is cut.
    const std::filesystem::path memory = "/dev/shm";
    const bool has_memory = ::access(memory.c_str(), W_OK) == 0;
    std::string pattern =
        ((has_memory ? memory : std::filesystem::temp_directory_path()) / "iron-lever-test-XXXXXX").string();
    path_ = ::mkdtemp(pattern.data());
  }
  ~TestFolder() {
    std::error_code code;
    std::filesystem::remove_all(path_, code);
  }
  TestFolder(const TestFolder&) = delete;
  TestFolder& operator=(const TestFolder&) = delete;

  [[nodiscard]] std::string operator/(const std::string& name) const { return path_ + "/" + name; }
  [[nodiscard]] const std::string& path() const { return path_; }
  std::string write(const std::string& name, const std::string& text) const {
    std::ofstream(*this / name, std::ios::binary) << text;
    return *this / name;
  }

 private:
  std::string path_;
};

inline std::string contents(const std::string& path) {
  std::ifstream file(path, std::ios::binary);
  std::ostringstream text;
  text << file.rdbuf();
  return text.str();
}

}  // namespace support
