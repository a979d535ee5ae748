#pragma once

#include <QAbstractTableModel>
#include <vector>

#include "app/model/study_model.h"

namespace app {

/// All that happened in the study, newest first: visits, captures, failures, decisions, notes.
class LogbookModel final : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { ClockColumn, PersonColumn, WhatColumn, ColumnCount };
  explicit LogbookModel(const StudyModel& study, QObject* parent = nullptr);
  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

 private:
  struct Entry {
    std::int64_t at_ms = 0;
    QString person;
    QString what;
  };
  void refresh();
  const StudyModel& study_;
  std::vector<Entry> entries_;
};

}  // namespace app
