#pragma once

#include <functional>
#include <string>

#include "store/study/study_file.h"

namespace store {

/// Calls `take` for every text that a study holds. Errors as Database
core::Status forEachText(StudyFile& file, const std::function<void(const StudyFile::Text&)>& take);

/// How the texts of a study are written anew.
struct Rewriting {
  std::function<std::string(const StudyFile::Text&)> text;  ///< what stands there from then on
  bool keeps_pictures = true;
};

/// Writes the texts of a study anew, in a file that nobody has open: a copy that is to be sent on. What stood there
/// before is nowhere in it any more. Identity, numbers and frames stay. Errors as Database
core::Status rewriteTexts(const std::string& path, const Rewriting& rewriting);

}  // namespace store
