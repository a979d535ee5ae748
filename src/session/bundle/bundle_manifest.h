#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "session/bundle/bundle_files.h"

namespace session {

inline constexpr const char* kBundledStudy = "study.ironlever";
inline constexpr const char* kReadMe = "READ-ME.txt";
inline constexpr const char* kManifest = "manifest.json";

/// A file of a bundle as its manifest names it.
struct ListedFile {
  std::string name;
  std::string sha256;
  std::uint64_t bytes = 0;
};

/// What a bundle says of itself.
struct Manifest {
  BundleMaking making;
  std::vector<ListedFile> files;
  std::map<std::string, int> left_out;
};

[[nodiscard]] std::string manifestText(const Manifest& manifest);
/// The inverse. Errors  Malformed for anything else
[[nodiscard]] core::Result<Manifest> manifestFrom(const std::string& text);

/// What the bundle says to whoever opens it by hand.
[[nodiscard]] std::string readMeText(const std::map<std::string, int>& left_out);

}  // namespace session
