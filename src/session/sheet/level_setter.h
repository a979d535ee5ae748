#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "session/programs/launcher.h"
#include "session/sheet/setting_journal.h"
#include "session/sheet/visit_captures.h"
#include "session/study/flip_under_way.h"
#include "session/study/machine.h"
#include "session/study/open_study.h"

namespace session {

/// Brings the bench to the level of a visit, proves that it is there, and puts back what it has written.
class LevelSetter {
 public:
  /// How a step came out; nothing where a person stopped it.
  using Then = std::function<void(const std::optional<core::Status>&)>;

  /// All outlive it. `journal`: the file that remembers what stood before each setting.
  LevelSetter(OpenStudy& open, Machine& machine, Launcher& launcher, const VisitCaptures& captures, std::string journal)
      : open_(open), machine_(machine), launcher_(launcher), captures_(captures), settings_(std::move(journal)) {}

  /// Writes and commands of the level of a visit. `is_resumed`: after a restart with nobody there; it gives up where
  /// restart after restart brings no visit.
  void set(const core::Slot& slot, bool is_resumed, const Then& then);
  /// The settings alone. Errors of SettingJournal
  core::Status apply(core::ConfigurationId configuration);
  core::Status restore();
  /// Are they on, written by this program and not yet put back?
  [[nodiscard]] bool isOn() const { return is_on_; }
  /// Where that can be done while the machine runs: after a limit was reached.
  void backToBaseline(const Then& then);
  /// What the first capture of the visit in hand says against its level, before its first pass; a sentence.
  [[nodiscard]] std::optional<std::string> contradiction() const;

  /// Can the end of the last visit still be seen?
  [[nodiscard]] bool isVisitOpen() const;
  [[nodiscard]] std::optional<core::CaptureMoment> measurementDue(bool visit_goes_on) const;
  void measure(core::CaptureMoment moment, const Then& then);
  [[nodiscard]] bool isStabilityDue() const;
  void testStability(const Then& then);

 private:
  [[nodiscard]] const core::Study& study() const { return open_.study(); }
  [[nodiscard]] const store::Recorded& recorded() const { return open_.recorded(); }
  struct Setting {
    std::string variable;
    core::ExactCommand exact;
  };
  [[nodiscard]] std::optional<FlipUnderWay> flipBeforeRestart(const core::Slot& slot) const;
  [[nodiscard]] bool isBroughtByRestart(const core::Variable& variable,
                                        const std::optional<FlipUnderWay>& before) const;
  [[nodiscard]] std::vector<Setting> settingsFor(const core::Slot& slot) const;
  [[nodiscard]] std::size_t flipsInVain(const core::Slot& slot) const;
  [[nodiscard]] bool needsRestartFor(const core::Slot& slot) const;
  [[nodiscard]] std::string settingOf(const core::Slot& slot) const;
  /// Commands that run one after the other.
  struct Turn {
    std::vector<core::ExactCommand> left;
    std::string where;                                           ///< for the failure
    bool ends_at_failure = false;                                ///< else the rest is tried too
    std::optional<core::Error> failure;                          ///< the first
    std::function<core::Status(std::size_t place)> before_each;  ///< its place among those of the turn
    std::size_t done = 0;
  };
  void runInTurn(Turn turn, const Then& then);

  OpenStudy& open_;
  Machine& machine_;
  Launcher& launcher_;
  const VisitCaptures& captures_;
  SettingJournal settings_;
  bool is_on_ = false;
};

}  // namespace session
