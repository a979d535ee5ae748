#pragma once

#include <map>
#include <optional>
#include <string>

namespace session {

/// Looks at the programs that a pass has started, while nothing of them is recorded yet, to say why in the end.
class RecordedPrograms {
 public:
  /// Looks at every process below this one. Does nothing after the first minutes.
  void look();
  /// Why none of them was recorded, in one clause. `folder` is where their rings would be.
  [[nodiscard]] std::string reason(const std::string& folder) const;

 private:
  struct Program {
    bool is_secure = false;  ///< runs with rights that its starter has not: the loader ignores what is added
    bool is_static = false;  ///< no loader brings it anything
    bool is_32_bits = false;
    bool has_variables = false;  ///< its environment still says what we asked
    bool has_preload = false;
    bool has_layer = false;
    bool has_vulkan = false;  ///< the loader's library
    bool has_gl = false;      ///< GLX or EGL
  };
  std::map<std::string, Program> programs_;  ///< by the file that is run
  int looks_ = 0;

  [[nodiscard]] static std::optional<Program> inspect(const std::string& process);
};

}  // namespace session
