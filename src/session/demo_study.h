#pragma once

#include <memory>
#include <string>

#include "session/session.h"

namespace session {

/// Opens the demo study in `folder`, making it and its simulated bench first where they are missing. Its commands are
/// our own and are approved for this session only. It is not run here: Session::start does that. Errors  Io for the
/// folder; NotAllowed where another study lies there; those of the simulated bench and of the study file
[[nodiscard]] core::Result<std::unique_ptr<Session>> openDemo(const std::string& folder, bench::BenchConnection& bench);

/// Names the demo of this version of the program: another version's lies in another folder.
[[nodiscard]] std::string demoMark();

/// The study file of a demo folder.
[[nodiscard]] std::string demoStudyPath(const std::string& folder);

}  // namespace session
