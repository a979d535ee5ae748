#pragma once

#include <functional>
#include <map>
#include <string>
#include <vector>

#include "session/bundle/nameless_study.h"

namespace session {

/// What was sealed.
struct SealedBundle {
  std::string seal;  ///< SHA-256, to be kept elsewhere: it tells this bundle from every other
  std::size_t files = 0;
  std::map<std::string, int> left_out;  ///< how many things of each kind are called by number, or are not in it
};

/// What is left of sealing once the study is copied: it touches the study no more, and may be done in another thread.
/// Errors  those of report::checkReport; of writing
using Sealing = std::function<core::Result<SealedBundle>()>;
/// Copies what a bundle is made from. Errors  of the study file; Io, DiskFull where it cannot be written
[[nodiscard]] core::Result<Sealing> beginSealing(OpenStudy& open, const std::string& path, const KeptPersonal& kept);

/// Seals a study with all that follows from it in one zip: the study, its captures, what its passes printed, its report
/// and its numbers, and a manifest with the SHA-256 of each. What it says of persons and their machines is called by
/// number in every file of it, but for what is kept. Errors  those of beginSealing and of Sealing
[[nodiscard]] core::Result<SealedBundle> sealBundle(OpenStudy& open, const std::string& path, const KeptPersonal& kept);

/// What is not in a bundle as it follows from its study.
struct BundleDifference {
  std::string where;  ///< "report.html, number 12: … 6.9 % …"
  std::string printed;
  std::string recomputed;
};

struct BundleCheck {
  std::size_t files = 0;
  std::size_t passes = 0;
  std::size_t numbers = 0;  ///< of the page, the tables and the other files, each worked out again
  std::vector<BundleDifference> differences;
  std::string seal;
};

/// Works everything in a bundle out again from the passes in it. Runs nothing, writes nothing but a private copy of its
/// study, and reads one file of it at a time, of at most 256 MiB; the study may be as large as the bundle.
/// What is no bundle at all differs from one. Errors  Missing, Io
[[nodiscard]] core::Result<BundleCheck> verifyBundle(const std::string& path);

}  // namespace session
