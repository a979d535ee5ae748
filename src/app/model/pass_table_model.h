#pragma once

#include <QAbstractTableModel>
#include <QString>
#include <vector>

#include "app/model/study_model.h"

namespace app {

/// The recorded passes, newest first.
class PassTableModel final : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { ClockColumn, LevelColumn, CaseColumn, PassColumn, ResultColumn, ColumnCount };
  enum Role { RawRole = Qt::UserRole, FailedRole, LevelRole };
  explicit PassTableModel(const StudyModel& study, QObject* parent = nullptr);
  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

 private:
  void refresh();
  [[nodiscard]] QString text(const core::Pass& pass, int column) const;
  [[nodiscard]] bool isSealed(const core::Pass& pass) const;
  const StudyModel& study_;
  std::pair<bool, bool> was_sealed_;       ///< the first part, the second
  std::optional<std::int64_t> was_asked_;  ///< the pass of which somebody is to say how it felt
  std::string of_;                         ///< the study's path
  std::vector<core::Pass> passes_;
  core::BenchClock clock_;  ///< of a bench elsewhere
};

}  // namespace app
