#pragma once

#include <QString>
#include <QStringList>
#include <vector>

#include "app/model/study_model.h"

namespace app {

/// One pass of a case in run order, in numbers for the chart and in words for the table.
struct PassView {
  std::int64_t id = 0;
  double clock_s = 0;      ///< seconds since 1970
  double percent_off = 0;  ///< from the middle of its own level: tells nothing of the effect
  double value = 0;        ///< in the metric's unit
  core::ConfigurationId configuration = core::ConfigurationId::Baseline;
  int visit = 0;  ///< as planned
  QString clock;
  QString title;   ///< "visit 3, pass 2"
  QString remark;  ///< "warm-up", "far from its level's other passes", why it was left out
  bool is_counted = true;
  bool is_excluded = false;
  bool is_odd = false;

  bool operator==(const PassView&) const = default;
};

/// A visit as a band in time.
struct VisitBand {
  double begin_s = 0;
  double end_s = 0;
  int visit = 0;
  core::ConfigurationId configuration = core::ConfigurationId::Baseline;

  bool operator==(const VisitBand&) const = default;
};

/// What the passes page shows.
class PassesViewModel final : public QObject {
  Q_OBJECT
 public:
  explicit PassesViewModel(const StudyModel& study, QObject* parent = nullptr) : QObject(parent), study_(study) {}
  /// Finished passes of a case, in run order.
  [[nodiscard]] std::vector<PassView> passes(std::size_t case_index) const;
  [[nodiscard]] std::vector<VisitBand> bands() const;
  [[nodiscard]] QStringList cases() const;
  /// What quality says of a case, as sentences.
  [[nodiscard]] QStringList remarks(std::size_t case_index) const;
  /// "140 passes, 1 left out": for the track.
  [[nodiscard]] QString progress() const;

 private:
  const StudyModel& study_;
};

/// The physical causes for which a pass may be left out.
[[nodiscard]] QStringList exclusionCauses();

}  // namespace app
