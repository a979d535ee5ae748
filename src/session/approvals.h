#pragma once

#include <string>
#include <vector>

#include "core/study.h"

namespace session {

/// The commands that the person at this machine has approved: a study file from elsewhere never starts a program
/// unasked. A command is its environment, program, arguments and working folder; if one of them differs it is another
/// command. Kept in one JSON object a line. A setting that would be written
/// is approved in the same way.
class Approvals {
 public:
  /// The file is UserFiles::approvals.
  explicit Approvals(std::string path) : path_(std::move(path)) {}

  /// Those of `commands` that are not approved for `folder`, in their order.
  [[nodiscard]] std::vector<core::ExactCommand> missing(const std::vector<core::ExactCommand>& commands,
                                                        const std::string& folder) const;

  /// Records a person's approval. Errors  Io
  core::Status approve(const std::vector<core::ExactCommand>& commands, const std::string& folder);

 private:
  std::string path_;
};

}  // namespace session
