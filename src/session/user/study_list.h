#pragma once

#include <string>
#include <vector>

namespace session {

/// Paths of studies in a file of this user's, a JSON text a line, since a path may hold a line break. Of those whose
/// sheets run by themselves: what is to go on after a restart; a sheet that a person stopped, that waits for one, or
/// that is done is not among them.
class StudyList {
 public:
  explicit StudyList(std::string path) : path_(std::move(path)) {}
  [[nodiscard]] std::vector<std::string> all() const;
  /// A list that cannot be written holds nothing up: then only what it remembers is lost.
  void add(const std::string& study) const;
  void remove(const std::string& study) const;
  /// These, in this order, and no others.
  void keep(const std::vector<std::string>& studies) const;

 private:
  std::string path_;
};

}  // namespace session
