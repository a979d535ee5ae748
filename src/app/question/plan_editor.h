#pragma once

#include <QWidget>

#include "app/model/planning_model.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace app {

class Fold;

/// How long it may take; folded below it how often, and in what order. What that costs and buys is PlanOutlook's.
class PlanEditor final : public QWidget {
  Q_OBJECT
 public:
  explicit PlanEditor(QWidget* parent = nullptr);
  void load(const core::Study& study, const PlanningView& view, bool can_edit);
  /// The plan that was loaded, with the fields put in. Another number of rounds is drawn anew, from the same seed.
  [[nodiscard]] core::Plan plan() const;
  void focusSize();
  void choose(const core::CandidatePlan& candidate);

 Q_SIGNALS:
  void edited();
  void planChosen(const core::Plan& plan);
  /// A person wants the best plan that takes at most so long.
  void minutesChosen(double minutes);

 private:
  void buildSizes(QVBoxLayout* column);
  void makeRest();
  void buildCrossed(QVBoxLayout* column);
  void loadCrossed(const core::Study& study, bool can_edit);
  void buildGuess(QVBoxLayout* column);
  core::Plan loaded_;
  core::Study study_;  ///< as it was loaded
  PlanningView view_;
  QComboBox* order_ = nullptr;
  QSpinBox* passes_ = nullptr;
  QSpinBox* rounds_ = nullptr;
  QSpinBox* passes_per_visit_ = nullptr;
  QSpinBox* warm_ups_ = nullptr;
  QDoubleSpinBox* time_limit_ = nullptr;
  QDoubleSpinBox* settle_ = nullptr;
  QDoubleSpinBox* settle_to_ = nullptr;
  QDoubleSpinBox* quiet_ = nullptr;
  QSpinBox* retries_ = nullptr;
  QCheckBox* sealed_ = nullptr;
  QComboBox* looks_ = nullptr;
  QDoubleSpinBox* pass_spread_ = nullptr;
  QDoubleSpinBox* flip_spread_ = nullptr;
  QDoubleSpinBox* flip_minutes_ = nullptr;
  QDoubleSpinBox* pass_minutes_ = nullptr;
  QDoubleSpinBox* minutes_ = nullptr;
  double shown_minutes_ = 0;
  std::vector<QPushButton*> usual_;  ///< times that are chosen with one press
  Fold* fold_ = nullptr;
  QComboBox* spread_ = nullptr;
  QComboBox* planned_for_ = nullptr;
  QComboBox* grouped_by_ = nullptr;
  QWidget* crossed_ = nullptr;  ///< what only two crossed variables need
  QLabel* groupings_ = nullptr;
};

}  // namespace app
