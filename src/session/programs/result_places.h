#pragma once

#include <functional>
#include <map>
#include <string>

#include "bench/bench_connection.h"
#include "core/study/case.h"
#include "core/values/result.h"

namespace session {

/// Where the numbers of a pass stand, besides its frames: in what its command prints, and in files that it writes.
class ResultPlaces {
 public:
  /// The full path of a file of the study's; empty where it may not be read.
  using Resolve = std::function<std::string(const std::string& path)>;

  /// Looks at the files as they are before the pass: what is not written anew says nothing of it.
  ResultPlaces(const core::Case& a_case, const Resolve& resolve);

  /// A number of the pass, divided as the design says. A pattern is looked for in standard output, and where nothing
  /// matches there in standard error.
  /// Errors  those of store::numberFromJson and core::lastNumberIn; Missing, TooFew for a file that the pass did not
  /// write, OutOfRange for one above 1 MiB
  [[nodiscard]] core::Result<double> numberOf(const core::CaseResult& result,
                                              const bench::CommandOutcome& outcome) const;

 private:
  struct Before {
    std::string full;
    std::string stamp;  ///< which file, when changed, how large; empty where there is none
  };
  [[nodiscard]] core::Result<std::string> written(const std::string& path) const;
  std::map<std::string, Before> files_;
};

}  // namespace session
