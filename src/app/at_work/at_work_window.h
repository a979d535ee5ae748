#pragma once

#include <QDialog>

#include "app/model/at_work_model.h"
#include "app/shell/prompts.h"

class QLabel;
class QPushButton;
class QTableView;

namespace app {

/// Several benches at once: one row each, what each waits for, and a person's way through the room.
class AtWorkWindow final : public QDialog {
  Q_OBJECT
 public:
  /// Both outlive it.
  AtWorkWindow(AtWorkModel& model, Prompts& prompts, QWidget* parent = nullptr);
  /// Puts this study in, where it is not in yet, and chooses it.
  void showStudy(const QString& path);
  /// What a person reads and approves before the chosen one is started; nothing where nothing is asked.
  void startChosen();

 Q_SIGNALS:
  void openRequested(const QString& path);

 private:
  void setUpTable();
  void layOut();
  void connectParts();
  void refresh();
  void addStudies();
  void readAndApprove();
  [[nodiscard]] int chosen() const;
  void choose(int row);
  QPushButton* button(const char* name, const QString& text);

  AtWorkModel& model_;
  Prompts& prompts_;
  QLabel* way_;
  QTableView* table_;
  QLabel* words_;
  QPushButton* add_;
  QPushButton* remove_;
  QPushButton* earlier_;
  QPushButton* later_;
  QPushButton* open_;
  QPushButton* stop_;
  QPushButton* stop_all_;
  QPushButton* approve_;
  QPushButton* start_;
};

}  // namespace app
