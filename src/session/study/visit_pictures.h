#pragma once

#include <string>
#include <vector>

#include "session/study/open_study.h"

namespace session {

/// A picture as it may be kept: its bytes, and what they are.
struct Picture {
  std::string bytes;
  std::string media_type;  ///< "image/png", "image/jpeg"
  std::string digest;      ///< SHA-256 of the bytes, in hexadecimal digits
};

/// What a picture is, by its first bytes; empty where it is of no kind that a report can show.
[[nodiscard]] std::string mediaTypeOf(const std::string& bytes);

/// Reads one to be kept. Errors  Missing, Io as reading a file; OutOfRange above 16 MiB; Malformed for anything but PNG
/// and JPEG
[[nodiscard]] core::Result<Picture> readPicture(const std::string& path);

/// Keeps a picture of how the bench was set up for a planned visit that was begun: of its last setting. The same
/// picture for several visits is kept once. Errors of the study file; those of readPicture; Missing for a visit that
/// was not begun
core::Status keepVisitPicture(OpenStudy& open, int planned_visit, const std::string& path);

/// One of a study's, ready for a page.
struct KeptPicture {
  std::string caption;  ///< "Visit 3, at Gen 4: menu.png"
  std::string media_type;
  std::string base64;  ///< its bytes
};
/// Of the visits, in the order in which they were kept, then those of what somebody noticed. Errors of the study file
[[nodiscard]] core::Result<std::vector<KeptPicture>> keptPictures(OpenStudy& open);

}  // namespace session
