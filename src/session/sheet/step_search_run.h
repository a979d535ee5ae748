#pragma once

#include <QObject>
#include <functional>
#include <optional>

#include "core/record/step_search.h"
#include "session/programs/launcher.h"
#include "session/sheet/setting_journal.h"
#include "session/study/machine.h"
#include "session/study/open_study.h"
#include "session/user/file_lock.h"
#include "session/user/name_lock.h"

namespace session {

/// Looks for the highest stable step of a study's variable before anything is measured: sets a step, or waits for a
/// person who does, tests it for errors, and goes up or down. Everything is on record before it happens, so that a
/// machine that hangs in a test is a step that failed, and a search that was killed goes on where it stood. At its end
/// the study knows which of its levels hold; its sheet takes those.
class StepSearchRun final : public QObject {
  Q_OBJECT
 public:
  enum class Ending {
    Over,             ///< stepSearchOf says with what
    Stopped,          ///< by a person
    WaitsForPerson,   ///< who is to bring the bench to the next step
    WaitsForRestart,  ///< the next step is set, and needs one
    CannotGoOn        ///< problem() says why
  };
  struct How {
    bool is_set = false;       ///< a person has brought the bench to the next step
    bool is_attended = false;  ///< somebody stays with it, also beyond what the maker set
  };
  /// All outlive it. `journal`: the file that remembers what stood before each setting; `bench_name`: of the bench, as
  /// NameLock knows it.
  StepSearchRun(OpenStudy& open, Machine& machine, std::string journal, std::function<std::string()> bench_name);
  ~StepSearchRun() override;

  /// `finished` follows. Errors  those of searchProblems; Missing{program}; NotApproved; Busy; NotAllowed once a pass
  /// is recorded, while it runs
  core::Status start(How how);
  void stop();
  [[nodiscard]] bool isRunning() const { return lock_.has_value(); }
  [[nodiscard]] Ending ending() const { return ending_; }
  [[nodiscard]] const std::optional<core::Error>& problem() const { return problem_; }

 Q_SIGNALS:
  /// A step was begun, or its test has ended.
  void changed();
  void finished();

 private:
  [[nodiscard]] const core::Study& study() const { return open_.study(); }
  [[nodiscard]] core::Status checkApproved() const;
  void goOn();
  /// What was begun and never ended. Is there anything left to set for the next step?
  [[nodiscard]] bool isSetAlready(core::ConfigurationId step);
  void set(core::ConfigurationId step);
  void runSetCommand(core::ConfigurationId step, std::size_t place);
  void test(core::ConfigurationId step);
  void conclude();
  bool note(core::ConfigurationId step, core::StepPhase phase, const std::string& text);
  void fail(core::ConfigurationId step, const std::string& why);
  void end(Ending ending, std::optional<core::Error> problem = {});

  OpenStudy& open_;
  Machine& machine_;
  Launcher launcher_;
  SettingJournal settings_;
  How how_;
  Ending ending_ = Ending::Over;
  std::optional<core::Error> problem_;
  std::function<std::string()> bench_name_;
  std::optional<FileLock> lock_;
  std::optional<NameLock> bench_lock_;
};

}  // namespace session
