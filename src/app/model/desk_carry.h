#pragma once

#include <QString>
#include <string>
#include <vector>

#include "app/model/desk_model.h"
#include "app/model/study_model.h"

namespace app {

/// A number of the desk's answer, and what of a study it may become.
struct DeskCarry {
  enum class Into {
    Threshold,    ///< what is too small to act on
    Expectation,  ///< what this person expects, before the first counted pass
    Resource      ///< what a level offers
  };
  Into into = Into::Threshold;
  double number = 0;
  std::string unit;
  std::size_t level = 0;  ///< of the variable, for a resource
  QString text;           ///< "threshold: 4.2 %"
};

/// All that may be carried: percentages as threshold or expectation, rates and watts as what a level offers.
[[nodiscard]] std::vector<DeskCarry> carriesOf(const DeskModel& desk, const core::Study& study);

/// Carries one into the study. `reason`: of a threshold that changes after the first pass.
/// Errors  those of StudyFile::replaceStudy, and of Decisions
core::Status carry(session::Session& session, const DeskCarry& what, const std::string& reason = {});

}  // namespace app
