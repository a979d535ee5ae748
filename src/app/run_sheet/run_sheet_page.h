#pragma once

#include <QTimer>
#include <QWidget>

#include "app/model/live_trace.h"
#include "app/model/pass_table_model.h"
#include "app/model/run_sheet_view_model.h"

class QCPItemText;
class QCustomPlot;
class QFrame;
class QLabel;
class QProgressBar;
class QPushButton;
class QTableView;
class QVBoxLayout;

namespace app {

class ChecklistBox;
class VisitCards;

/// Place 3: the sheet, the card in hand large, the pass in hand live, and what has come in.
class RunSheetPage final : public QWidget {
  Q_OBJECT
 public:
  RunSheetPage(StudyModel& study, const RunSheetViewModel& sheet, PassTableModel& passes, QWidget* parent = nullptr);
  /// After a change of theme.
  void restyle();

 Q_SIGNALS:
  /// A moment of a pass that a person plays has passed.
  void played();
  /// The bench contradicts the level of the visit in hand: measure it all the same, or give the level up.
  void measureAnywayPressed();
  void notReachablePressed();
  /// A picture of how the bench is set up is to be kept with this planned visit.
  void pictureRequested(int visit);

 private:
  void buildHand(QVBoxLayout* column);
  [[nodiscard]] QWidget* buildLive();
  void showEvent(QShowEvent* event) override;
  void refresh();
  /// Only where somebody looks: of a long sheet it takes its time.
  void fill();
  void showHand();
  void buildFeel(QVBoxLayout* column);
  void buildContradicted(QVBoxLayout* column);
  void tick();
  void drawTrace();

  StudyModel& study_;
  const RunSheetViewModel& sheet_;
  QTimer pulse_;
  LiveTrace trace_;
  QLabel* heading_ = nullptr;
  VisitCards* cards_ = nullptr;
  QFrame* hand_ = nullptr;
  QLabel* title_ = nullptr;
  QLabel* line_ = nullptr;
  QLabel* steps_ = nullptr;
  ChecklistBox* checklist_ = nullptr;
  QPushButton* picture_ = nullptr;
  QLabel* commands_ = nullptr;
  QLabel* caution_ = nullptr;
  QProgressBar* progress_ = nullptr;
  QLabel* time_ = nullptr;
  QPushButton* stop_now_ = nullptr;
  QTableView* passes_ = nullptr;
  QWidget* live_ = nullptr;
  QLabel* live_title_ = nullptr;
  QLabel* live_value_ = nullptr;
  QLabel* live_samples_ = nullptr;
  QWidget* contradicted_ = nullptr;
  QWidget* feel_ = nullptr;
  QLabel* feel_question_ = nullptr;
  QCustomPlot* plot_ = nullptr;
};

}  // namespace app
