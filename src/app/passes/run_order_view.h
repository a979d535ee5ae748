#pragma once

#include <QSharedPointer>
#include <QWidget>

#include "app/model/passes_view_model.h"

class QCheckBox;
class QComboBox;
class QCPAxisTickerDateTime;
class QCustomPlot;
class QLabel;
class QPushButton;
class QTableWidget;

class QVBoxLayout;

namespace app {

/// Every pass of a case in run order, as a chart first. A pass is left out while levels and effect are hidden.
class RunOrderView final : public QWidget {
  Q_OBJECT
 public:
  RunOrderView(StudyModel& study, const PassesViewModel& views, QWidget* parent = nullptr);
  void chooseCase(int case_index);
  /// After a change of theme.
  void restyle();

 Q_SIGNALS:
  /// A person wants to leave a pass out; `what` names it without its level.
  void exclusionRequested(qint64 pass_id, const QString& what);

  /// A person wants to read what a pass printed; `what` names it.
  void printedRequested(qint64 pass_id, const QString& what);

  /// A person wants to see a pass frame by frame.
  void framesRequested(qint64 pass_id);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void buildTop(QVBoxLayout* column);
  void buildChart(QVBoxLayout* column);
  void fillCases();
  void refresh();
  [[nodiscard]] QString marksText() const;
  void addMark(const PassView& pass);
  void nameVisit(const VisitBand& band, bool has_room);
  void draw();
  void fillTable();
  void showChosen();
  void excludeOrInclude();
  void choosePassAt(double clock_s, double y);
  [[nodiscard]] const PassView* chosen() const;
  [[nodiscard]] QString nameOf(const PassView& pass) const;
  [[nodiscard]] bool showsLevels() const;
  /// Is what the chosen case does not to be shown yet?
  [[nodiscard]] bool isSealed() const;
  [[nodiscard]] double yOf(const PassView& pass) const;

  StudyModel& study_;
  const PassesViewModel& views_;
  /// What is drawn: the same is not drawn again, and stays zoomed as it is.
  struct Shown {
    core::Study study;
    bool has_levels = false;
    int case_index = 0;
    std::vector<PassView> passes;
    std::vector<VisitBand> bands;
    bool operator==(const Shown&) const = default;
  };
  Shown shown_;
  bool is_filling_ = false;
  QComboBox* cases_ = nullptr;
  QCheckBox* levels_ = nullptr;
  QPushButton* exclude_ = nullptr;
  QPushButton* printed_ = nullptr;
  QLabel* empty_ = nullptr;
  QLabel* key_ = nullptr;
  QLabel* remarks_ = nullptr;
  QCustomPlot* plot_ = nullptr;
  QSharedPointer<QCPAxisTickerDateTime> clock_;
  QTableWidget* table_ = nullptr;
};

}  // namespace app
