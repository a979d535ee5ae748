#pragma once

#include <QAbstractTableModel>
#include <optional>
#include <vector>

#include "app/model/study_model.h"
#include "core/study/name_pattern.h"
#include "session/study/log_import.h"

namespace app {

/// Logs that a person brings in: a row for each run, where it goes, and how its log was read. Read one after the other
/// while the window stays alive; nothing is filed before the person says so.
class ImportModel final : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { FileColumn, FramesColumn, AverageColumn, CaseColumn, LevelColumn, PlaceColumn, ColumnCount };

  explicit ImportModel(StudyModel& study, QObject* parent = nullptr) : QAbstractTableModel(parent), study_(study) {}
  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override {
    return parent.isValid() ? 0 : ColumnCount;
  }
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

  void add(const QStringList& paths);
  /// Reads the next file. False when all are read.
  bool readNext();
  [[nodiscard]] int filesLeft() const { return static_cast<int>(waiting_.size()); }
  [[nodiscard]] int files() const { return static_cast<int>(files_.size()) + filesLeft(); }
  void setPattern(const QString& pattern);
  /// Puts a row elsewhere than its file's name says.
  void setPlace(int row, std::size_t case_index, core::ConfigurationId configuration);

  /// How the log of a row was read, to be confirmed or corrected; nothing where it could not be read.
  [[nodiscard]] const session::LogReading* readingOf(int row) const;
  /// Reads it again, and every other log with the same columns; the bench remembers it.
  void correct(int row, const store::TimeReading& time);
  /// Why a row cannot be filed; empty where it can.
  [[nodiscard]] QString problemOf(int row) const;
  /// Rows that can be filed.
  [[nodiscard]] int ready() const;
  /// Files the next row that can be. False when none is left.
  bool fileNext();

 private:
  struct File {
    QString path;
    session::LogReading reading;
    QString error;
  };
  struct Row {
    std::size_t file = 0;
    std::size_t run = 0;
    std::optional<core::NamedPass> place;
    bool is_placed_by_hand = false;
    QString problem;
    std::optional<std::size_t> slot;
    bool is_filed = false;
  };
  static void read(File& file, const store::TimeReading& time);
  void buildRows();
  void assign();

  StudyModel& study_;
  QString pattern_ = QStringLiteral("{case}_{level}_{any}");
  QStringList waiting_;
  std::vector<File> files_;
  std::vector<Row> rows_;
};

}  // namespace app
