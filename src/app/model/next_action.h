#pragma once

#include <QString>

#include "app/model/study_model.h"

namespace app {

/// What the one button on the claim line does.
enum class NextIntent {
  OpenDemo,
  CompleteQuestion,
  ShowCommands,
  ApproveCommands,
  Start,
  StartThere,  ///< at its bench, over ssh
  StopAfterPass,
  ShowStop,
  AcceptStop,
  ReadFindings,
  RepeatFailed,
  NewFromThis,
  StopAtLook,  ///< the study ends at a planned look
  Extend,      ///< the one extension of a finished plan
  StartPlaying,
  BeginStretch,
  TypeResults,
  EndStretch,
  AskLower,  ///< the same with the next lower level
  None
};

/// Always exactly one thing; when something blocks it, the text says what.
struct NextAction {
  NextIntent intent = NextIntent::None;
  QString text;
  QString hint;  ///< one sentence more
  bool is_enabled = true;
};

/// `place` is where the person is: commands are approved only where they are on the screen to be read.
[[nodiscard]] NextAction nextActionOf(const StudyModel& model, core::Place place);

}  // namespace app
