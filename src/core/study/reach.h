#pragma once

#include <string>
#include <string_view>

#include "core/study/study.h"

namespace core {

/// How a bench is reached.
struct Reach {
  enum class By {
    Here,      ///< it is the computer that the program runs on
    Ssh,       ///< `to` is what ssh takes: a host, user@host, or a name of its configuration
    Folder,    ///< `to` is a folder that stands for it, seen from the study's
    Elsewhere  ///< a person brings its results
  };
  By by = By::Here;
  std::string to = {};

  bool operator==(const Reach&) const = default;
};

/// "here", "ssh:NAME", "folder:PATH" or "elsewhere". Errors  Malformed for anything else, and for a name that ssh would
/// take for an option of its own or for several words
[[nodiscard]] Result<Reach> reachFrom(std::string_view text);
/// The inverse.
[[nodiscard]] std::string reachText(const Reach& reach);

/// How a study's bench is reached; of one that says nothing, what follows from its cases.
[[nodiscard]] Reach reachOf(const Study& study);
/// From now on it is reached so.
void setReach(Study& study, const Reach& reach);

}  // namespace core
