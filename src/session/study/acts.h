#pragma once

#include <string>
#include <vector>

#include "bench/bench_connection.h"
#include "core/study/study.h"
#include "session/study/act_programs.h"

namespace session {

/// One thing that a study does on this machine: it starts a command, writes a setting, or reads what lies outside its
/// folder. With everything that decides what really happens: what a person approves.
struct Act {
  core::ExactCommand exact;
  std::string reads;                 ///< then it is neither a command nor a setting
  std::string folder;                ///< working folder
  std::string machine;               ///< the folder that stands for the bench; empty: this machine
  std::vector<ActProgram> programs;  ///< of a command

  /// For reading, in words of which none can be hidden.
  [[nodiscard]] std::string sentence() const;
  /// The same act has the same key, on this machine and for this folder.
  [[nodiscard]] std::string key() const;
};

/// Everything that running a study would do beyond its own folder, in the order of first use.
[[nodiscard]] std::vector<Act> actsOf(const core::Study& study, const std::string& folder,
                                      const bench::BenchConnection& bench);

/// Where a path of a study leads, seen from its folder, with every link followed.
struct StudyPath {
  std::string full;
  bool is_below = false;  ///< does it stay in the study's folder
};
[[nodiscard]] StudyPath studyPath(const std::string& path, const std::string& folder);

/// Reading what such a path names.
[[nodiscard]] Act readingOf(const StudyPath& path, const std::string& folder);

/// One number for a list of acts: a script that has read it can approve exactly that.
[[nodiscard]] std::string digestOf(const std::vector<Act>& acts);

}  // namespace session
