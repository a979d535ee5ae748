#pragma once

#include <QDialog>

class QLabel;
class QPlainTextEdit;
class QPushButton;

namespace app {

class Prompts;

/// What somebody noticed beside what is measured, and a picture of it.
class ObservationDialog final : public QDialog {
  Q_OBJECT
 public:
  /// `prompts` outlives it.
  explicit ObservationDialog(Prompts& prompts, QWidget* parent = nullptr);
  [[nodiscard]] QString text() const;
  /// Empty: none was chosen.
  [[nodiscard]] const QString& picture() const { return picture_; }

 private:
  void choosePicture();
  Prompts& prompts_;
  QString picture_;
  QPlainTextEdit* text_;
  QLabel* chosen_;
  QPushButton* keep_;
};

}  // namespace app
