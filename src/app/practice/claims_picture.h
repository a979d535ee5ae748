#pragma once

#include <QWidget>
#include <optional>

#include "session/practice/practice_score.h"

namespace app {

/// What was true, what was claimed, and what the program said, on one scale of percent.
class ClaimsPicture final : public QWidget {
  Q_OBJECT
 public:
  explicit ClaimsPicture(QWidget* parent = nullptr);
  void show(const session::PracticeOutcome& outcome);
  [[nodiscard]] QSize sizeHint() const override { return {420, 132}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::optional<session::PracticeOutcome> outcome_;
};

}  // namespace app
