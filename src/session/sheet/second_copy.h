#pragma once

#include <string>

#include "session/study/open_study.h"
#include "session/user/background.h"
#include "session/user/second_folders.h"

namespace session {

/// The copy of a study in its second folder, made anew after each pass. A stick that was pulled, or a slow share, holds
/// nothing up: what is copied is made near by, and taken there beside the caller's thread.
class SecondCopy {
 public:
  /// Both outlive it. `folders`: where this user keeps their names.
  SecondCopy(OpenStudy& open, Background& background, std::string folders)
      : open_(open), background_(background), folders_(std::move(folders)) {}
  /// Makes the copy that is still due, however slow the folder is.
  ~SecondCopy();
  SecondCopy(const SecondCopy&) = delete;
  SecondCopy& operator=(const SecondCopy&) = delete;

  /// Empty where a copy goes nowhere.
  [[nodiscard]] std::string folder() const { return folders_.folderOf(open_.absolutePath()); }
  /// Names that folder and makes the first copy. Errors  Io; those of StudyFile::copyTo
  core::Status setFolder(const std::string& folder);
  /// While one copy is under way the next is only asked for.
  void make();

 private:
  void makeNow();
  void tell(const core::Status& copied);

  OpenStudy& open_;
  Background& background_;
  SecondFolders folders_;
  bool is_current_ = true;  ///< so that a failure is said once
  bool is_asked_ = false;   ///< while something else was under way
};

}  // namespace session
