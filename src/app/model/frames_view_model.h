#pragma once

#include <QString>
#include <QStringList>
#include <optional>
#include <vector>

#include "app/model/study_model.h"
#include "core/frames/trace.h"

namespace app {

/// What a trace is drawn of: one pass, or the mean of a level's passes.
struct FramesChoice {
  QString title;
  std::int64_t pass_id = 0;                            ///< 0 for a level
  std::optional<core::ConfigurationId> configuration;  ///< of a level; absent for a pass

  bool operator==(const FramesChoice&) const = default;
};

/// A remark that somebody made on a moment of a pass.
struct MomentNote {
  double at_s = 0;
  QString text;
};

/// One trace, ready to be drawn.
struct FramesTrace {
  QString title;
  std::vector<double> positions;  ///< seconds, or percent of the pass
  std::vector<double> frame_ms;   ///< of a level: means of its passes, stretch by stretch
  std::vector<double> pooled_ms;  ///< the frames themselves, of all its passes
  core::Samples samples;          ///< of a pass
  std::vector<MomentNote> notes;
  [[nodiscard]] bool isEmpty() const { return frame_ms.empty(); }

  struct Series {
    std::vector<double> positions;
    std::vector<double> values;
  };
  /// What a channel says along the trace: frame by frame where it does, else at its samples. Empty where the pass has
  /// no such channel.
  [[nodiscard]] Series seriesOf(const std::string& channel, core::TraceAxis axis) const;
};

/// What the frames of a trace say, a cell for each column of the head; no cells where no frame is in view.
struct FramesMetrics {
  using Head = std::vector<std::pair<QString, QStringList>>;
  QString title;
  QStringList cells;
  bool is_thin = false;   ///< a low of fewer than ten frames is among them, with a star
  bool is_level = false;  ///< all frames of all its passes, whatever is in view
};

/// What the frame-by-frame view shows.
class FramesViewModel final : public QObject {
  Q_OBJECT
 public:
  explicit FramesViewModel(const StudyModel& study, QObject* parent = nullptr) : QObject(parent), study_(study) {}
  /// Is what a case does not to be shown yet? Whoever sees its frames has seen its result.
  [[nodiscard]] bool isSealed(std::size_t case_index) const;
  /// Finished passes of a case that have frames, in run order; then its levels, while results may be seen.
  [[nodiscard]] std::vector<FramesChoice> choices(std::size_t case_index) const;
  /// Reads it from the study file. Empty where it cannot be read.
  [[nodiscard]] FramesTrace trace(const FramesChoice& choice, std::size_t case_index, core::TraceAxis axis) const;
  /// The frames of every counted pass of a level, one list a pass. Reads them from the study file.
  [[nodiscard]] std::vector<std::vector<double>> levelFrames(std::size_t case_index,
                                                             core::ConfigurationId configuration) const;
  /// All metrics of the frames between two positions.
  [[nodiscard]] FramesMetrics metrics(const FramesTrace& trace, double from, double to) const;
  /// What its cells are: a name and, where it has several, theirs.
  [[nodiscard]] FramesMetrics::Head metricsHead() const;
  /// The difference of each stretch, percent of the frame rate, second against first.
  static constexpr int kStretches = 20;
  [[nodiscard]] static std::vector<double> stretchPercents(const FramesTrace& first, const FramesTrace& second);

 private:
  [[nodiscard]] FramesTrace levelTrace(const FramesChoice& choice, std::size_t case_index, core::TraceAxis axis) const;
  const StudyModel& study_;
};

}  // namespace app
