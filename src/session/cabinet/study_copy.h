#pragma once

#include <QTemporaryDir>
#include <memory>
#include <string>

#include "store/study/study_file.h"

namespace session {

/// A private copy of somebody's study, open: an older schema is brought up to date in the copy, and nothing is locked,
/// marked or written where the study lies, which may be a folder that nobody may write to. The copy goes with this.
class StudyCopy {
 public:
  /// Errors  those of StudyFile::open, about `path`; Busy while a program files into it; Io where there is no room
  [[nodiscard]] static core::Result<StudyCopy> of(const std::string& path);

  [[nodiscard]] store::StudyFile& file() { return file_; }
  [[nodiscard]] const store::StudyFile& file() const { return file_; }
  /// Of the file's bytes as they lay there, in hexadecimal digits.
  [[nodiscard]] const std::string& sha256() const { return sha256_; }

 private:
  StudyCopy(std::unique_ptr<QTemporaryDir> folder, store::StudyFile file, std::string sha256)
      : folder_(std::move(folder)), file_(std::move(file)), sha256_(std::move(sha256)) {}

  std::unique_ptr<QTemporaryDir> folder_;  // outlives the file within
  store::StudyFile file_;
  std::string sha256_;
};

}  // namespace session
