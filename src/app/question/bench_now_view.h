#pragma once

#include <QWidget>

#include "core/machine/fact.h"

class QGridLayout;
class QLabel;

namespace app {

/// What the bench was when it was read last, part by part: what a person checks before the first flip.
class BenchNowView final : public QWidget {
  Q_OBJECT
 public:
  explicit BenchNowView(QWidget* parent = nullptr);
  /// `how` it was reached, where that is worth a word.
  void show(const core::Capture& capture, const QString& how = {});
  /// Where it is not here, or nobody has approved that it be read.
  void showNothing(const QString& why);

 private:
  void clear();
  QLabel* title_;
  QLabel* why_;
  QGridLayout* parts_;
};

}  // namespace app
