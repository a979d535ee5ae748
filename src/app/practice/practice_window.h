#pragma once

#include <QDialog>

#include "app/model/practice_model.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QStackedWidget;

namespace app {

class ClaimsPicture;

/// Practice: choose an exercise; then its story beside the study that the main window shows, the bench in hand, the
/// claim to sign, and what was true.
class PracticeWindow final : public QDialog {
  Q_OBJECT
 public:
  /// `model` outlives it.
  explicit PracticeWindow(PracticeModel& model, QWidget* parent = nullptr);

 private:
  [[nodiscard]] QWidget* listPage();
  [[nodiscard]] QWidget* tryPage();
  [[nodiscard]] QWidget* claimForm();
  [[nodiscard]] QWidget* freeChoices();
  QDoubleSpinBox* percentBox(const char* name, const QString& what, double from, double to);
  void refresh();
  void showOutcome();
  void showExercise();
  void begin();
  void sign();
  void openBench();

  PracticeModel& model_;
  std::string shown_;  ///< the try that was in hand when the window looked last
  QStackedWidget* pages_;
  QListWidget* list_ = nullptr;
  QLabel* about_ = nullptr;
  QWidget* free_ = nullptr;
  QCheckBox* chooses_ = nullptr;
  QDoubleSpinBox* effect_ = nullptr;
  QDoubleSpinBox* noise_ = nullptr;
  QDoubleSpinBox* flips_ = nullptr;
  QComboBox* pace_ = nullptr;
  QLabel* record_ = nullptr;
  QPushButton* forget_ = nullptr;
  QLabel* title_ = nullptr;
  QLabel* story_ = nullptr;
  QPushButton* bench_ = nullptr;
  QPushButton* restarts_ = nullptr;
  QPushButton* main_study_ = nullptr;
  QWidget* claim_ = nullptr;
  QDoubleSpinBox* percent_ = nullptr;
  QDoubleSpinBox* lo_ = nullptr;
  QDoubleSpinBox* hi_ = nullptr;
  QComboBox* recommend_ = nullptr;
  QLineEdit* doubts_ = nullptr;
  ClaimsPicture* picture_ = nullptr;
  QLabel* outcome_ = nullptr;
};

}  // namespace app
