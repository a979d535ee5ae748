#pragma once

#include <QAbstractTableModel>
#include <memory>
#include <vector>

#include "app/model/sheet_work.h"
#include "session/user/study_list.h"

namespace app {

/// Studies of several benches that are run side by side: one row each, in the order in which their benches stand in the
/// room. Which they are is remembered.
class AtWorkModel final : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { Bench, Study, InHand, Passes, TimeLeft, Person, kColumns };

  /// `here` outlives it.
  AtWorkModel(bench::BenchConnection& here, session::UserFiles files, QObject* parent = nullptr);
  ~AtWorkModel() override;

  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

  /// Its row; where it cannot be followed, the reason stands in it.
  int add(const QString& path);
  /// A sheet at a far bench goes on there; one that runs here ends.
  void remove(int row);
  /// Earlier or later on the way through the room.
  void move(int row, int by);
  void start(int row);
  void stop(int row);
  void stopAll();
  void approve(int row);

  [[nodiscard]] QString pathOf(int row) const;
  [[nodiscard]] WorkStanding standingOf(int row) const;
  [[nodiscard]] QStringList toApprove(int row) const;
  /// What a person does now, bench after bench as they stand: "1. Dome node 2: bring it to Gen 3 by hand". Then what
  /// comes next by itself.
  [[nodiscard]] QStringList wayRound() const;
  [[nodiscard]] bool isAnyRunning() const;

 Q_SIGNALS:
  void failed(const QString& sentence);
  /// The study at this path has more on record.
  void filed(const QString& path);
  /// A person is needed at a bench.
  void called(const QString& sentence);

 private:
  struct Row {
    QString path;
    QString problem;                  ///< why it cannot be followed
    std::unique_ptr<SheetWork> work;  ///< null with a problem
    WorkStanding standing;            ///< worked out when it changes: a table asks for it at every look
  };
  [[nodiscard]] std::unique_ptr<Row> rowOf(const QString& path);
  void open(Row& row);
  static void look(Row& row);
  void follow(const SheetWork* work);
  void keep() const;
  void tell(const core::Status& status);

  bench::BenchConnection& here_;
  session::UserFiles files_;
  session::StudyList list_;
  std::vector<std::unique_ptr<Row>> rows_;
};

}  // namespace app
