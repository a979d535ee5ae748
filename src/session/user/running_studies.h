#pragma once

#include <string>
#include <vector>

namespace session {

/// The studies whose sheets run by themselves on this machine, a JSON text a line, since a path may hold a line break:
/// what is to go on after a restart. A sheet that a person stopped, that waits for one, or that is done is not among
/// them.
class RunningStudies {
 public:
  explicit RunningStudies(std::string path) : path_(std::move(path)) {}
  [[nodiscard]] std::vector<std::string> all() const;
  /// A list that cannot be written holds no sheet up: then only the going on by itself is lost.
  void add(const std::string& study) const;
  void remove(const std::string& study) const;

 private:
  void keep(const std::vector<std::string>& studies) const;
  std::string path_;
};

}  // namespace session
