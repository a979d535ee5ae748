#pragma once

#include <memory>
#include <span>
#include <string>

#include "session/sheet/session.h"

namespace session {

/// A study that ships with the program, each on a simulated bench of its own.
struct DemoStudy {
  const char* id;      ///< "memory-speed": its file, and below the demo's folder its own; also on the command line
  const char* title;   ///< as a menu offers it
  const char* about;   ///< one sentence: what it shows
  const char* design;  ///< among the program's resources, as the bench's hidden truth
  const char* truth;
  bool has_accidents = true;   ///< does the bench have those of its truth?
  const char* next = "";       ///< the id of what is measured after it, so that both can be laid side by side
  const char* otherwise = "";  ///< how its bench differs from that truth: a JSON merge patch (RFC 7396)
  double slower = 1;           ///< so many times as long each frame takes there
  int days_ago = 0;            ///< when it was measured; 0: some day before today
};
/// Those to watch, a pair first, in the demo's folder itself; then the same with an accident on the way, a ladder, a
/// crossing and a chain, each in a folder below it. Those that another names as `next` are not among them.
[[nodiscard]] std::span<const DemoStudy> demoStudies();
/// What is measured after a study of the demo; empty after most.
[[nodiscard]] std::string nextDemo(const std::string& id);

/// Opens a demo study in `folder`, making it and its simulated bench first where they are missing. Its commands are our
/// own and are approved for this session only. It is not run here: Session::start does that.
/// Errors  Missing for an unknown id; Io for the folder; NotAllowed where another study lies there; those of the
/// simulated bench and of the study file
[[nodiscard]] core::Result<std::unique_ptr<Session>> openDemo(const std::string& folder, bench::BenchConnection& bench,
                                                              const std::string& id = "memory-speed");

/// Names the demo of this version of the program: another version's lies in another folder.
[[nodiscard]] std::string demoMark();

/// The file of its first study in a demo folder.
[[nodiscard]] std::string demoStudyPath(const std::string& folder);

}  // namespace session
