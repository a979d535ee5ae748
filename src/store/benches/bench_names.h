#pragma once

#include <map>
#include <set>
#include <string>

#include "core/values/result.h"

namespace store {

/// How a folder that stands for a bench is called: it is not the bench itself.
[[nodiscard]] inline std::string standInFor(const std::string& bench) { return bench + " (stand-in)"; }

/// What people said of the names of benches: that one is another one under a new name, or is not. It stands in the
/// register beside what the benches were. Errors as BenchRegister
class BenchNames {
 public:
  /// `path`: that of the register.
  explicit BenchNames(std::string path) : path_(std::move(path)) {}

  /// Every name that is no longer used, and the one that is now.
  [[nodiscard]] core::Result<std::map<std::string, std::string>> all() const;
  /// How a bench is called now, or what stands in for it; the name itself where nobody said anything.
  [[nodiscard]] core::Result<std::string> now(const std::string& name) const;
  /// `then` is called `now`: what the register holds of the old name, and of what stands in for it, stands under the
  /// new one from then on. Studies keep the name that they were made with. Errors besides: OutOfRange for an empty
  /// name, or where `now` was called `then`
  core::Status rename(const std::string& then, const std::string& now);
  /// What is asked of two benches (see session::benchQuestions) is answered, and not asked again.
  core::Status settle(const std::string& question);
  [[nodiscard]] core::Result<std::set<std::string>> settled() const;

 private:
  std::string path_;
};

}  // namespace store
