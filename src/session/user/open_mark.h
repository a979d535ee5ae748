#pragma once

#include <string>
#include <utility>
#include <vector>

namespace session {

/// Says beside a study that somebody has it open, and who else has. Each holder locks a place of its own in one file,
/// so that the kernel forgets whoever dies; the last one removes it. Where none can be made nobody is told, and nothing
/// else suffers.
class OpenMark {
 public:
  OpenMark(const std::string& study_path, const std::string& person);
  OpenMark(const OpenMark&) = delete;
  OpenMark& operator=(const OpenMark&) = delete;
  ~OpenMark();

  /// "M. Osei, process 4711 on dome-3", in the order of their places.
  [[nodiscard]] std::vector<std::string> others() const;

 private:
  bool take(const std::string& person);
  std::string path_;
  int descriptor_ = -1;
  int place_ = -1;
};

}  // namespace session
