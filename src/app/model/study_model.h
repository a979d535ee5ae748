#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "app/model/qt_text.h"
#include "core/judgement/judgement.h"
#include "session/sheet/session.h"

namespace app {

/// The study that the window shows, with everything worked out from it. All pages read from here and send their intents
/// here. Errors come as `failed`, in words fit for a person.
class StudyModel final : public QObject {
  Q_OBJECT
 public:
  /// `bench` outlives the model.
  explicit StudyModel(bench::BenchConnection& bench, session::UserFiles files);

  [[nodiscard]] bool hasStudy() const { return session_ != nullptr; }
  /// Only with a study.
  [[nodiscard]] session::Session& session() const { return *session_; }
  [[nodiscard]] const core::Study& study() const { return session_->study(); }
  /// Its findings and proof are about its `pair` alone.
  [[nodiscard]] const core::Judgement& judgement() const { return judged_; }
  /// Makes findings and proof be about these two.
  void showPair(const core::PairOf& pair);
  /// Does one thing to the open study, and tells of an error by `failed`. False there, and without a study.
  bool act(const std::function<core::Status(session::Session&)>& what);
  /// Tells a person, by `failed`.
  void tell(const core::Error& error) { report(error); }
  /// Every bench that was worked on: of the open study's user, or of this one.
  [[nodiscard]] store::BenchRegister benches() const;
  /// What keeps the question from being run; empty when it is ready.
  [[nodiscard]] const std::vector<core::Error>& problems() const { return problems_; }
  /// Why the question cannot be edited, as a sentence: from the first recorded pass on, and while passes run. Empty
  /// when it can.
  [[nodiscard]] QString whyLocked() const;
  /// Where commands are started: this machine.
  [[nodiscard]] bench::BenchConnection& machineHere() const { return bench_; }
  /// Where the program keeps what is this user's.
  [[nodiscard]] const session::UserFiles& files() const { return files_; }
  /// Who else has the study open at this moment; empty where nobody has. Only with a study.
  [[nodiscard]] QString openElsewhere() const;

 public Q_SLOTS:
  void openStudy(const QString& path);
  /// Keeps the open study's file there from now on. Nothing is lost where it cannot be moved.
  void keepElsewhere(const QString& path);
  /// Names the open study's file by its question, once that is complete, where no person has named it.
  void nameByQuestion();
  /// Makes a new study file that asks this in an order of its own, and shows it.
  void create(const QString& path, const core::Study& asked);
  /// Opens the demo in a folder, making it first where it is missing, and runs what is left of it.
  /// `id`: one of session::demoStudies.
  void openDemo(const QString& folder, const QString& id = QStringLiteral("memory-speed"));
  void replaceStudy(const core::Study& study);
  /// Takes back the last change of the question while it can be edited, afterwards the last decision that can be.
  void undo();
  /// While many acts follow each other nothing is worked out or drawn; then once for all of them.
  void setQuiet(bool is_quiet);
  void stopNow();
  /// Puts back what a program that died had left set, and says so.
  void putBackLeftOvers();

 Q_SIGNALS:
  /// Another study is there and about to be shown: the place for it can be chosen before anything is drawn.
  void studyTaken();
  /// Another study is shown.
  void studyOpened();
  /// Anything about it may have changed.
  void changed();
  void failed(const QString& sentence);
  /// Something that a person should know and that went well.
  void informed(const QString& sentence);

 private:
  void show(std::unique_ptr<session::Session> session);
  void take(std::unique_ptr<session::Session> session);
  void reopen(const QString& path);
  void update();
  void report(const core::Status& status);

  bench::BenchConnection& bench_;
  session::UserFiles files_;
  std::unique_ptr<session::Session> session_;
  core::Judgement judged_;
  core::JudgementMemory memory_;  ///< of the open study
  /// What a judgement changes with: how much is recorded, notes left out, and the pair that it is about.
  struct Basis {
    std::size_t visits = 0;
    std::size_t passes = 0;
    std::size_t acts = 0;
    std::optional<core::PairOf> pair;
    bool operator==(const Basis&) const = default;
  };
  std::optional<Basis> judged_on_;
  std::optional<core::PairOf> chosen_pair_;  ///< nothing: the one that the study is about in one line
  std::optional<std::size_t>
      proved_records_;  ///< how many captures, measurements and looks at devices the proof rests on
  core::Study proved_study_;
  std::vector<core::Study> earlier_;  ///< questions of this study, before each change of this sitting
  std::string named_path_;            ///< the last that was named by its question
  std::vector<core::Error> problems_;
  bool is_quiet_ = false;
  bool is_behind_ = false;  ///< something has changed while it was quiet
};

}  // namespace app
