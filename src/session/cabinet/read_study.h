#pragma once

#include <string>

#include "core/study/study.h"
#include "store/study/study_file.h"

namespace session {

/// A study as its file has it at this moment.
struct ReadStudy {
  std::string path;      ///< as it was asked for
  std::string sha256;    ///< of the file's bytes, in hexadecimal digits
  std::string identity;  ///< the same in each of its copies
  core::Study study;
  store::Recorded recorded;
};

/// Reads a study without touching it: from a private copy, in which an older schema is brought up to date. Nothing is
/// locked, marked or written where it lies, which may be a folder that nobody may write to.
/// Errors  those of StudyFile::open; Busy while a program files into it
[[nodiscard]] core::Result<ReadStudy> readStudy(const std::string& path);

}  // namespace session
