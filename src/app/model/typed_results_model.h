#pragma once

#include <QAbstractTableModel>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "app/model/study_model.h"

namespace app {

/// The results that people type, a row for each planned pass, in run order. A cell takes "57.3", "57,3", "50 to 60",
/// and sub-scores after it: "57.3; sky 41.2; dome 88". Where cases have results beside the headline each of those has a
/// column of its own: a row is filed once all its cells are given, "-" for one that nobody could read.
class TypedResultsModel final : public QAbstractTableModel {
  Q_OBJECT
 public:
  /// Behind the result the further results, by name; the remark last.
  enum Column { PassColumn, LevelColumn, CaseColumn, ResultColumn, FurtherColumns };

  explicit TypedResultsModel(StudyModel& study, QObject* parent = nullptr);
  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override {
    return parent.isValid() ? 0 : remarkColumn() + 1;
  }
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;

  [[nodiscard]] int remarkColumn() const { return FurtherColumns + static_cast<int>(names_.size()); }
  /// A row of a spreadsheet as typeLines takes it: the result, and behind it the further ones in the order of their
  /// columns; cells beyond them are left out.
  [[nodiscard]] QString rowText(const QString& cells) const;
  /// The cell to be typed behind that one: the next of its row that its case has, else the result of the next row.
  [[nodiscard]] QModelIndex nextCell(const QModelIndex& index) const;

  /// Does the study have results that are typed?
  [[nodiscard]] bool isNeeded() const;
  /// The first row without a result; -1 where all are in.
  [[nodiscard]] int firstOpenRow() const;
  /// Types one line after the other from a row on, as pasted from a spreadsheet. Returns the row after the last one
  /// taken; it stops at the first that cannot be read.
  int typeLines(int row, const QStringList& lines);
  /// The pass whose result stands in a row; 0 for none.
  [[nodiscard]] qint64 passAt(int row) const;

  /// A number such as "4,780" that was not taken, because it can be read in two ways.
  struct OpenNumber {
    int row = 0;
    QStringList lines;  ///< it and what was to follow it
    QString thousands;  ///< "4780"
    QString decimals;   ///< "4.780"
  };
  [[nodiscard]] const std::optional<OpenNumber>& openNumber() const { return open_number_; }
  /// Says which sign parts the decimals, from now on; the number that was asked about, and what followed it, is taken.
  /// Returns the row after the last one taken.
  int sayDecimals(bool is_decimal);

 Q_SIGNALS:
  /// What was wrong with what was typed, as a sentence.
  void refused(const QString& sentence);

 private:
  /// What was typed of a row that is not whole yet: the result, and the further ones by name.
  struct Begun {
    QString result;
    std::map<std::string, QString> further;
  };
  void refresh();
  bool file(std::size_t slot, const QString& text);
  bool fileWhenWhole(std::size_t slot);
  [[nodiscard]] bool isAsked(std::size_t slot, const std::string& name) const;
  [[nodiscard]] QString furtherTextOf(std::size_t slot, const std::string& name) const;
  [[nodiscard]] const core::Case& caseOf(std::size_t slot) const;
  [[nodiscard]] std::size_t slotOf(const QModelIndex& index) const {
    return slots_of_rows_[static_cast<std::size_t>(index.row())];
  }
  /// Of which further result a column is; nullptr where it is of none.
  [[nodiscard]] const std::string* nameOf(int column) const;
  [[nodiscard]] const core::Pass* passOf(std::size_t slot) const;
  [[nodiscard]] QString remarkOf(std::size_t slot) const;

  StudyModel& study_;
  core::DecimalSign decimal_ = core::DecimalSign::Unknown;  ///< as a person said, or as a pasted column tells
  std::optional<OpenNumber> open_number_;
  std::vector<std::size_t> slots_of_rows_;
  std::vector<std::string> names_;  ///< of the further results of typed cases
  std::map<std::size_t, Begun> begun_;
};

}  // namespace app
