#pragma once

#include <QDialog>

class QCheckBox;
class QLabel;
class QPushButton;
class QTableWidget;

namespace app {

class StudyModel;

/// The search for the highest stable step: each step with what its test said, what comes next, and who does it.
class SearchDialog final : public QDialog {
  Q_OBJECT
 public:
  explicit SearchDialog(StudyModel& study, QWidget* parent = nullptr);

 private:
  void makeTable();
  void refresh();
  void fillTable();
  [[nodiscard]] QString nextText() const;
  [[nodiscard]] QString whyNot() const;
  void start(bool is_set);
  StudyModel& study_;
  QTableWidget* table_;
  QLabel* next_;
  QLabel* steps_;
  QCheckBox* attended_;
  QPushButton* begin_;
  QPushButton* set_;
  QPushButton* stop_;
};

}  // namespace app
