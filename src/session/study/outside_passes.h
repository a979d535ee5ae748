#pragma once

#include <QObject>
#include <functional>
#include <string>
#include <vector>

#include "session/programs/pass_result.h"
#include "session/study/open_study.h"
#include "session/study/state.h"

namespace session {

/// Frames that were logged elsewhere.
struct OutsideFrames {
  std::vector<double> frame_ms;
  core::Samples samples;
  std::string origin;  ///< the file, and how it was read
  std::int64_t started_ms = 0;
};

/// Passes that did not run here: a person types their result, or brings the log of their frames.
class OutsidePasses final : public QObject {
  Q_OBJECT
 public:
  /// `open` outlives it; `state` tells what the sheet is doing.
  OutsidePasses(OpenStudy& open, std::function<State()> state) : open_(open), state_(std::move(state)) {}

  /// Files what a person typed as the result of a planned pass. Where one stands there already it is left out, and the
  /// new one counts. Errors of the study file; Missing{no such pass}; NotAllowed where results are measured, or others
  /// run
  /// `conditions`: what it took, or what was shown meanwhile, in a person's words: "after a restart".
  core::Status type(std::size_t slot, core::TypedValue typed, std::vector<std::string> conditions = {});
  /// Files a person's word that a case does not run at the level of a planned pass: a result, with its reason. Errors
  /// as type; OutOfRange without a reason
  core::Status typeDoesNotRun(std::size_t slot, const std::string& reason);
  /// Keeps a picture as proof of a pass's result. Errors of the study file; those of readPicture
  core::Status keepProof(std::int64_t pass_id, const std::string& picture_path);
  /// Files frames as a planned pass. Errors as type; those of core::summarizeFrames
  core::Status importFrames(std::size_t slot, OutsideFrames outside);

 Q_SIGNALS:
  void passFiled(const core::Pass& pass);

 private:
  [[nodiscard]] const store::Recorded& recorded() const { return open_.recorded(); }
  [[nodiscard]] core::Status refuseSecondTime(double value, const std::vector<double>& frame_ms);
  [[nodiscard]] core::Result<core::Visit> visitFor(const core::Slot& slot, std::int64_t started_ms);
  [[nodiscard]] bool isAwaited(const core::Slot& slot) const;
  [[nodiscard]] core::Status checkTyped(std::size_t slot) const;
  core::Status skipWarmUpsOf(const core::Slot& slot);
  core::Status file(std::size_t slot, MeasuredPass measured);

  OpenStudy& open_;
  std::function<State()> state_;
};

}  // namespace session
