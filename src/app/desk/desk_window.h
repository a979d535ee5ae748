#pragma once

#include <QDialog>
#include <vector>

#include "app/model/desk_carry.h"
#include "app/model/desk_model.h"

class QFormLayout;
class QGridLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;

namespace app {

/// The desk: sums for planning, each with its formula, its units and what it does not say; the answer stands there as
/// it is typed.
class DeskWindow final : public QDialog {
  Q_OBJECT
 public:
  /// `study` outlives it.
  explicit DeskWindow(StudyModel& study, QWidget* parent = nullptr);
  /// What the bench at hand says of itself; nothing where no study is open.
  void setBench(const core::Capture* capture, const std::string& device);

 Q_SIGNALS:
  /// A number of the answer is to become something of the study at hand.
  void carryRequested(const DeskCarry& what);

 protected:
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void fillCarries();
  void carryByKey();
  void layOut(QWidget* right);
  void showAsk();
  void showAnswer();
  void copyAnswer();

  StudyModel& study_;
  DeskModel model_;
  QListWidget* asks_;
  QLabel* title_;
  QFormLayout* form_;
  std::vector<QLineEdit*> fields_;
  QPushButton* from_bench_;
  QPushButton* copy_;
  QPushButton* carry_;
  QGridLayout* answers_;
  QLabel* told_;
  QLabel* formula_;
  QLabel* mind_;
};

}  // namespace app
