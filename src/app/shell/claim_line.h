#pragma once

#include <QFrame>

#include "app/model/next_action.h"

class QLabel;
class QPushButton;

namespace app {

/// The study as one sentence, its parts to be clicked, and the one button that says what to do next.
class ClaimLine final : public QFrame {
  Q_OBJECT
 public:
  explicit ClaimLine(const StudyModel& study, QWidget* parent = nullptr);
  /// Shows the sentence and the action as they are now.
  void refresh(const NextAction& action);

 Q_SIGNALS:
  /// A part of the sentence was clicked: "bench", "variable", "baseline", "changed", "metric", "cases", "outcome".
  void partClicked(const QString& part);
  void nextPressed();

 private:
  [[nodiscard]] QString sentence() const;
  const StudyModel& study_;
  QLabel* sentence_;
  QPushButton* next_;
};

}  // namespace app
