#pragma once

#include <QAbstractTableModel>
#include <QSortFilterProxyModel>
#include <vector>

#include "app/model/study_model.h"

namespace app {

/// All that happened in the study, newest first: visits, captures, failures, decisions, notes.
class LogbookModel final : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { ClockColumn, PersonColumn, WhatColumn, ColumnCount };
  /// What a line is about.
  enum class Kind { Bench, Passes, Decisions, Notes };
  static constexpr int kKindRole = Qt::UserRole;
  /// How a kind is called, in the order of Kind.
  [[nodiscard]] static QStringList kindNames();
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
    Kind kind = Kind::Bench;
  };
  void refresh();
  const StudyModel& study_;
  std::vector<Entry> entries_;
};

/// Of the logbook what somebody looks for: every word, one person, one kind.
class LogbookFilter final : public QSortFilterProxyModel {
  Q_OBJECT
 public:
  explicit LogbookFilter(LogbookModel& logbook, QObject* parent = nullptr);

  void setWords(const QString& words);
  /// Empty: everybody.
  void setPerson(const QString& person);
  /// Negative: every kind.
  void setKind(int kind);
  /// Everybody who did something, in the order of their names.
  [[nodiscard]] QStringList people() const;

 protected:
  [[nodiscard]] bool filterAcceptsRow(int row, const QModelIndex& parent) const override;

 private:
  QStringList words_;
  QString person_;
  int kind_ = -1;
};

}  // namespace app
