#pragma once

#include <string>

#include "core/values/result.h"
#include "store/study/study_file.h"

namespace session {

/// The second folder of each study, where a person has named one: a stick or a share that gets a copy after each pass.
/// It is kept by the user, not by the study: a stranger's study writes nowhere.
class SecondFolders {
 public:
  explicit SecondFolders(std::string path) : path_(std::move(path)) {}
  /// Empty where none is named.
  [[nodiscard]] std::string folderOf(const std::string& study) const;
  /// An empty folder ends it. Errors  Io
  core::Status setFolder(const std::string& study, const std::string& folder) const;

 private:
  std::string path_;
};

/// Where the copy of a study lies in a folder: "name-1f2e3d4c.copy.ironlever", where the number
/// stands for this machine and the study's place on it.
[[nodiscard]] std::string copyPath(const std::string& study, const std::string& folder);

}  // namespace session
