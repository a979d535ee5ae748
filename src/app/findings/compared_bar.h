#pragma once

#include <QWidget>

#include "app/model/study_model.h"

class QComboBox;
class QLabel;

namespace app {

/// Which two configurations the levers below show: any two, of a study with more. Two that nobody asked about before
/// the first pass are said to be chosen afterwards.
class ComparedBar final : public QWidget {
  Q_OBJECT
 public:
  explicit ComparedBar(const StudyModel& study, QWidget* parent = nullptr);
  /// After each change of the study, or of the pair. Hidden for a pair, and while there is nothing to compare.
  void show(bool has_results);

 Q_SIGNALS:
  void pairRequested(const core::PairOf& pair);

 private:
  void choose(QComboBox* chosen, QComboBox* other);
  const StudyModel& study_;
  QComboBox* to_;
  QComboBox* from_;
  QLabel* remark_;
};

}  // namespace app
