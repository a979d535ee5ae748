#pragma once

#include <string>
#include <vector>

#include "report/page_order.h"

namespace session {

/// What a person makes pages by: three that the program has, and their own, kept in one JSON file of theirs.
class ReportTemplates {
 public:
  /// `path`: of the file, which need not be there
  explicit ReportTemplates(std::string path) : path_(std::move(path)) {}

  /// "full", "short", "hurry", then a person's own by name. Errors  Malformed for a file that is none
  [[nodiscard]] core::Result<std::vector<std::string>> names() const;
  /// Errors besides: Missing, with the names that there are
  [[nodiscard]] core::Result<report::PageOrder> find(const std::string& name) const;
  /// In place of one of that name. Errors besides: OutOfRange for an empty name, and for one of the program's three
  core::Status keep(const std::string& name, const report::PageOrder& order);

 private:
  std::string path_;
};

}  // namespace session
