#pragma once

#include <QAbstractListModel>
#include <QString>
#include <QStringList>

#include "app/model/study_model.h"

namespace app {

/// One card of the sheet: a planned visit.
struct VisitCard {
  enum class State { Ahead, InHand, Done };
  QString clock;  ///< when it began; empty ahead of time
  QString title;  ///< "Visit 2 · 6000 MT/s"
  QString words;  ///< "9 of 35 passes"
  State state = State::Ahead;
};

/// The large card: what is to be done or what is being done, readable from two metres.
struct HandCard {
  QString title;
  QString line;       ///< where in the plan
  QStringList steps;  ///< what happens, or what a person does
  QString caution;
  QStringList commands;  ///< to be read and approved; empty otherwise
  bool is_problem = false;
};

/// What the run sheet shows, in finished text.
class RunSheetViewModel final : public QObject {
  Q_OBJECT
 public:
  explicit RunSheetViewModel(const StudyModel& study, QObject* parent = nullptr) : QObject(parent), study_(study) {}
  [[nodiscard]] QString heading() const;
  [[nodiscard]] std::vector<VisitCard> visits() const;
  [[nodiscard]] HandCard hand() const;
  /// "12 s in this pass · about 4 min left"; empty when nothing runs.
  [[nodiscard]] QString timeLine() const;
  [[nodiscard]] int recorded() const { return study_.findings().recorded_passes; }
  [[nodiscard]] int planned() const { return study_.findings().planned_passes; }

 private:
  [[nodiscard]] HandCard approvalCard() const;
  [[nodiscard]] HandCard runningCard() const;
  [[nodiscard]] HandCard readyCard() const;
  void addFlipSteps(HandCard& card, const core::Level& level) const;
  [[nodiscard]] QString cautionText() const;
  const StudyModel& study_;
};

/// The recorded passes, newest first.
class PassTableModel final : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { ClockColumn, LevelColumn, CaseColumn, PassColumn, ResultColumn, ColumnCount };
  enum Role { RawRole = Qt::UserRole, FailedRole, SideRole };
  explicit PassTableModel(const StudyModel& study, QObject* parent = nullptr);
  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

 private:
  void refresh();
  [[nodiscard]] QString text(const core::Pass& pass, int column) const;
  const StudyModel& study_;
  bool was_sealed_ = false;
  std::vector<core::Pass> passes_;
};

}  // namespace app
