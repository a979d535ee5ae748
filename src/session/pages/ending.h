#pragma once

#include <filesystem>
#include <string>

namespace session {

/// ".html" of "page.html": what people, and programs, take a file for.
[[nodiscard]] inline std::string endingOf(const std::string& path) {
  return std::filesystem::path(path).extension().string();
}

}  // namespace session
