#pragma once

#include <QDialog>
#include <array>
#include <vector>

#include "core/study/case.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QFormLayout;
class QLabel;
class QLineEdit;

namespace app {

class ResultsTable;

/// What kind of case it is: real or synthetic, run or played, and what a person declares about it.
class CaseDialog final : public QDialog {
  Q_OBJECT
 public:
  explicit CaseDialog(const core::Case& a_case, QWidget* parent = nullptr);
  /// The case that was given, with the fields put in.
  [[nodiscard]] core::Case edited() const;

 private:
  void makeFields(const core::Case& a_case);
  void makePossible(const core::Possible& possible);
  void makeCompanion(const core::Case& a_case);
  void makeRights(const core::Without& without);
  void addRunning(QFormLayout& form);
  void addDeclared(QFormLayout& form, const core::Case& a_case);
  void showPlayed();
  core::Case given_;
  QComboBox* nature_ = nullptr;
  QComboBox* response_ = nullptr;
  QCheckBox* played_ = nullptr;
  QLineEdit* route_ = nullptr;
  QDoubleSpinBox* length_ = nullptr;
  QLineEdit* settings_file_ = nullptr;
  QLineEdit* recorded_program_ = nullptr;
  ResultsTable* results_ = nullptr;
  QLineEdit* exit_codes_ = nullptr;    ///< with which its command ends where it does not run
  QLineEdit* not_possible_ = nullptr;  ///< the pattern of what it then prints
  QLineEdit* companion_ = nullptr;     ///< the command of what runs beside it
  QLineEdit* companion_name_ = nullptr;
  QDoubleSpinBox* head_start_ = nullptr;
  QLineEdit* audience_ = nullptr;
  std::array<QCheckBox*, 3> without_{};  ///< in the order of core::Without's fields
  std::vector<QLineEdit*> declared_;     ///< in the order of core::kDeclaredFacts
};

/// "real · by command · should respond": the kind of a case in a few words.
[[nodiscard]] QString natureText(const core::Case& a_case);

}  // namespace app
