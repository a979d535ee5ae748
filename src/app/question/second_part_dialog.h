#pragma once

#include <QDialog>
#include <vector>

#include "core/study/study.h"

class QDialogButtonBox;
class QLineEdit;
class QListWidget;
class QSpinBox;

namespace app {

class CaseEditor;

/// Cases that are added when a plan is complete: what they are, in how many rounds, and why they are asked now.
class SecondPartDialog final : public QDialog {
  Q_OBJECT
 public:
  explicit SecondPartDialog(const core::Study& study, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<core::Case> cases() const { return cases_; }
  [[nodiscard]] int rounds() const;
  [[nodiscard]] QString reason() const;

 private:
  void dress(const core::Study& study);
  void add();
  void remove();
  void refresh();
  std::vector<core::Case> cases_;
  QListWidget* list_;
  CaseEditor* editor_;
  QSpinBox* rounds_;
  QLineEdit* reason_;
  QDialogButtonBox* buttons_;
};

}  // namespace app
