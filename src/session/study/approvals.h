#pragma once

#include <string>
#include <vector>

#include "session/study/acts.h"

namespace session {

/// What the person at this machine has approved: a study file from elsewhere never starts a program unasked. An act is
/// approved with everything that decides what happens (Act::key); if one part differs it is another act. Kept in one
/// JSON object a line.
class Approvals {
 public:
  /// The file is UserFiles::approvals.
  explicit Approvals(std::string path) : path_(std::move(path)) {}

  /// Those of `acts` that are not approved, in their order; all of them where the file may be somebody else's.
  [[nodiscard]] std::vector<Act> missing(const std::vector<Act>& acts) const;

  /// Records a person's approval. Errors  Io; Denied where others may write to the file
  core::Status approve(const std::vector<Act>& acts);

 private:
  std::string path_;
};

}  // namespace session
