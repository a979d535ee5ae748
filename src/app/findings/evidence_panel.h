#pragma once

#include <QScrollArea>
#include <QSet>

#include "app/model/evidence.h"
#include "app/model/frames_view_model.h"
#include "app/model/used_model.h"

class QLabel;

namespace app {

class DistributionPlot;

/// The evidence behind the chosen row: the answer first, the rest folded under it. What a person has unfolded stays so
/// from row to row.
class EvidencePanel final : public QScrollArea {
  Q_OBJECT
 public:
  EvidencePanel(const StudyModel& study, const UsedModel& used, QWidget* parent = nullptr);
  /// Absent: the suite.
  void showCase(std::optional<std::size_t> case_index);
  /// After a change of theme.
  void restyle();

 Q_SIGNALS:
  /// A person wants to know what this verdict means.
  void meaningRequested(const QString& verdict);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void refresh();
  void toggle(const QString& link);
  void showDistribution();
  [[nodiscard]] QString heading(const QString& id, const QString& title, const QString& brief) const;
  [[nodiscard]] bool hasFrames() const;

  const StudyModel& study_;
  const UsedModel& used_;
  FramesViewModel frames_;
  std::optional<std::size_t> case_index_;
  QSet<QString> unfolded_;
  QLabel* text_;
  DistributionPlot* distribution_;
};

}  // namespace app
