#pragma once

#include <QDialog>

#include "session/practice/practice.h"

class QComboBox;
class QPushButton;

namespace app {

/// The bench of an exercise as a person has it in hand: a menu of its firmware, or the open machine with a part in its
/// socket and another beside it. Both can be left as they are, and both can be done wrong.
class PracticeBenchDialog final : public QDialog {
  Q_OBJECT
 public:
  PracticeBenchDialog(const session::PracticeTry& about, const QString& bench, QWidget* parent = nullptr);

 Q_SIGNALS:
  /// What the bench restarts with: a setting; empty where nothing was changed.
  void restarted(const QString& assignment);

 private:
  void buildMenu(const QString& bench);
  void buildPart(const QString& bench);
  void restart(const QString& assignment);
  session::PracticeTry about_;
};

}  // namespace app
