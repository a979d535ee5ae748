#pragma once

#include <cstdint>
#include <functional>
#include <memory>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "core/values/result.h"

struct zip;

namespace session {

/// A zip whose last 64 bytes, the end of its comment, are the SHA-256 of all bytes before them: whatever is changed in
/// it is seen. Everything in it is stored as it is, so that nothing in it is larger than the file.
inline constexpr std::string_view kSealWords = "Sealed by Iron Lever. SHA-256 of all bytes before these 64 digits: ";

/// Writes one of files that lie elsewhere: names in it, and paths. Gives its seal.
/// Errors  Io, DiskFull where it cannot be written
[[nodiscard]] core::Result<std::string> writeSealedZip(const std::string& path,
                                                       const std::vector<std::pair<std::string, std::string>>& files);

/// What a zip from anywhere holds. Nothing of it is written where its names say.
class SealedZip {
 public:
  /// Errors  ForeignFile for what does not end with a seal; DamagedFile for what is no zip; those of reading
  [[nodiscard]] static core::Result<SealedZip> open(const std::string& path);

  [[nodiscard]] const std::string& seal() const { return seal_; }  ///< as it stands there
  /// What its bytes really sum up to. Errors  Io
  [[nodiscard]] core::Result<std::string> sum() const;

  struct Entry {
    std::string name;
    std::uint64_t size = 0;
    std::string refused;  ///< why it is not read: packed, encrypted, no plain file; empty: it can be
  };
  [[nodiscard]] const std::vector<Entry>& entries() const { return entries_; }

  /// Hands the bytes of an entry over in pieces. Errors  DamagedFile where they are not what the zip's sum says; what
  /// `take` returns
  core::Status read(std::size_t entry, const std::function<core::Status(std::string_view)>& take) const;

 private:
  struct Close {
    void operator()(struct zip* archive) const;
  };
  SealedZip() = default;
  core::Status list();

  std::string path_;
  std::string seal_;
  std::vector<Entry> entries_;
  std::unique_ptr<struct zip, Close> archive_;
};

}  // namespace session
