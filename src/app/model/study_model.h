#pragma once

#include <QObject>
#include <QString>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "core/judgement/judgement.h"
#include "core/values/shown_text.h"
#include "session/session.h"

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
  [[nodiscard]] const core::Findings& findings() const { return judged_.findings; }
  [[nodiscard]] const core::Judgement& judgement() const { return judged_; }
  /// Tells a person, by `failed`.
  void tell(const core::Error& error) { report(error); }
  [[nodiscard]] const std::vector<core::Doubt>& doubts() const { return judged_.doubts; }
  [[nodiscard]] const core::Claim& claim() const { return judged_.claim; }
  [[nodiscard]] const core::BenchProof& proof() const { return judged_.proof; }
  /// Nothing that tells of the effect is to be shown yet.
  [[nodiscard]] bool isSealed() const { return judged_.is_sealed; }
  /// Levels that could not be reached, the latest last.
  [[nodiscard]] const std::vector<core::Unreachable>& unreachable() const { return judged_.unreachable; }
  /// What would make a finished plan decide, where that is allowed.
  [[nodiscard]] const std::optional<core::Extension>& extension() const { return judged_.extension; }
  /// What a case would have changed by with every pass that people left out; nothing where none is.
  /// The planned look at which the study stands, by its round.
  [[nodiscard]] const std::optional<int>& look() const { return judged_.look; }
  /// What people expected, before the first counted pass.
  [[nodiscard]] const std::vector<core::Prediction>& predictions() const { return judged_.predictions; }
  /// Of the suite, or of the one case.
  [[nodiscard]] core::Verdict headlineVerdict() const;
  /// The next lower level than the last one that could not be reached; empty where nobody can tell.
  [[nodiscard]] QString nextLowerLevel() const;
  /// Every bench that was worked on: of the open study's user, or of this one.
  [[nodiscard]] store::BenchRegister benches() const;
  /// What keeps the question from being run; empty when it is ready.
  [[nodiscard]] const std::vector<core::Error>& problems() const { return problems_; }
  /// False from the first recorded pass on, and while passes run.
  [[nodiscard]] bool canEditQuestion() const;
  /// Why not, as a sentence; empty when it can be edited.
  [[nodiscard]] QString whyLocked() const;

 public Q_SLOTS:
  void openStudy(const QString& path);
  /// Makes a new study file; with `copies_current` it asks the same question as the one that is open.
  void newStudy(const QString& path, bool copies_current);
  /// Makes a new study that asks the same with the next lower level in place of the one that could not be reached. How
  /// that level is set is for the person to say.
  void newStudyWithLowerLevel(const QString& path);
  /// Makes a null study of the one that is open: every flip is performed, the level stays at the baseline. Six visits
  /// or more, as long as this study's, so that later plans can rest on it.
  void newNullStudy(const QString& path);
  /// Opens the demo in a folder, making it first where it is missing, and runs what is left of it.
  void openDemo(const QString& folder);
  void replaceStudy(const core::Study& study);
  /// While many acts follow each other nothing is worked out or drawn; then once for all of them.
  void setQuiet(bool is_quiet);
  void changeJudging(const core::Judging& judging, const QString& reason);
  void approveCommands();
  void start();
  void stopAfterPass();
  void stopNow();
  void repeatFailed();
  void addNote(const QString& text, const QString& moment = {});
  /// False, and told by `failed`, where it could not be filed.
  bool typeResult(std::size_t slot, const core::TypedValue& typed);
  /// The caller says why not; a study is open. Errors  those of Session::importPass
  [[nodiscard]] core::Status importPass(std::size_t slot, session::Session::OutsideFrames frames);
  void pin(const QString& case_title, const QString& remark);
  /// What somebody holds to be the cause of a case's finding; an empty text takes it back.
  void explain(const QString& case_title, core::Grade grade, const QString& text);
  void keepProof(std::int64_t pass_id, const QString& picture_path);
  void acceptDoubt(const QString& doubt_id, const QString& reason);
  /// What only a person knows about the bench, by the id of the fact; only what differs is recorded.
  void stateFacts(const std::map<QString, QString>& facts);
  void openEarly(const QString& reason);
  void declareUnreachable(core::Side side, const QString& reason);
  void startPlaying();
  void beginStretch();
  /// The same by a key that was pressed in the program itself: begins the counted stretch at once, or ends it.
  void pressPlayersKey();
  void endStretch();
  /// How the last played pass felt: "smooth", "hitches" or "unusable".
  void feel(const QString& word);
  /// What somebody expects, in percent; nothing takes it back.
  void predict(const QString& who, std::optional<double> percent);
  void skipNext(const QString& reason);
  void addRound(const QString& reason);
  void extendPlan();
  void stopAtLook();
  void exclude(std::int64_t pass_id, const QString& cause);
  void include(std::int64_t pass_id);
  /// Makes a study that looks at a surprise again: this case and an unsurprising one, at both levels, kept apart from
  /// the first look.
  void newConfirmation(const QString& path, std::size_t case_index);
  void stateStable(core::Side side, const QString& how);
  void setSecondFolder(const QString& folder);
  /// Puts back what a program that died had left set, and says so.
  void putBackLeftOvers();

 Q_SIGNALS:
  /// Another study is shown.
  void studyOpened();
  /// Anything about it may have changed.
  void changed();
  void failed(const QString& sentence);
  /// Something that a person should know and that went well.
  void informed(const QString& sentence);

 private:
  void create(const QString& path, const core::Study& asked);
  void show(std::unique_ptr<session::Session> session);
  void update();
  void report(const core::Status& status);

  bench::BenchConnection& bench_;
  session::UserFiles files_;
  std::unique_ptr<session::Session> session_;
  core::Judgement judged_;
  std::optional<std::size_t>
      proved_records_;  ///< how many captures, measurements and looks at devices the proof rests on
  core::Study proved_study_;
  std::vector<core::Error> problems_;
  bool is_quiet_ = false;
  bool is_behind_ = false;  ///< something has changed while it was quiet
};

/// UTF-8 text of the core for the screen.
[[nodiscard]] inline QString toQt(const std::string& text) { return QString::fromStdString(core::shownText(text)); }

}  // namespace app
