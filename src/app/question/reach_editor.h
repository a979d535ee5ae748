#pragma once

#include <QWidget>

#include "core/study/reach.h"

class QComboBox;
class QLineEdit;

namespace app {

/// How the bench is reached: this computer, another one over ssh, a folder that stands for it, or elsewhere.
class ReachEditor final : public QWidget {
  Q_OBJECT
 public:
  explicit ReachEditor(QWidget* parent = nullptr);
  void load(const core::Reach& reach, bool can_edit);

 Q_SIGNALS:
  /// A person has chosen, whole: a way with the name or folder that it needs.
  void edited(const core::Reach& reach);
  /// What was typed is none of them.
  void refused(const core::Error& why);

 private:
  void showWay();
  void take();
  QComboBox* way_;
  QLineEdit* to_;
  core::Reach loaded_;
};

}  // namespace app
