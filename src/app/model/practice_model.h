#pragma once

#include <QObject>
#include <QString>
#include <optional>
#include <vector>

#include "bench/bench_connection.h"
#include "session/practice/practice_record.h"

namespace app {

/// Practice: the exercises, the try in hand, and what it came to. The bench, the passes and the findings are those of
/// any study.
class PracticeModel final : public QObject {
  Q_OBJECT
 public:
  /// `bench` outlives it.
  PracticeModel(const bench::BenchConnection& bench, session::UserFiles files, QObject* parent = nullptr);

  [[nodiscard]] const std::vector<session::Exercise>& exercises() const { return exercises_; }
  /// Makes a try in a folder of its own among the user's studies. Its study is asked to be opened.
  void begin(const session::PracticeStart& start);
  /// The try to which an open study belongs; none is in hand where it belongs to none.
  void takeStudy(const QString& study_path, const QString& bench);
  [[nodiscard]] const std::optional<session::PracticeTry>& inHand() const { return try_; }
  /// What the bench of the try is called.
  [[nodiscard]] const QString& benchName() const { return bench_name_; }
  /// What is true, once a claim is signed; nothing before.
  [[nodiscard]] const std::optional<session::PracticeOutcome>& outcome() const { return outcome_; }

  /// Empty: a restart alone.
  void setBench(const QString& assignment);
  void sign(const session::PracticeClaim& claim);

  /// "Of your 12 claims at 95 % 9 were true ...", then each exercise.
  [[nodiscard]] QStringList record() const;
  void forget();

 Q_SIGNALS:
  void changed();
  void openRequested(const QString& study_path);
  void failed(const QString& sentence);
  void informed(const QString& sentence);

 private:
  void look();
  const bench::BenchConnection& bench_;
  session::UserFiles files_;
  session::PracticeRecord record_;
  std::vector<session::Exercise> exercises_;
  QString folder_;
  QString bench_name_;
  std::optional<session::PracticeTry> try_;
  std::optional<session::PracticeOutcome> outcome_;
};

}  // namespace app
