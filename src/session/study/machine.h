#pragma once

#include <memory>
#include <string>

#include "bench/bench_connection.h"
#include "session/study/acts.h"
#include "session/study/approvals.h"
#include "session/study/open_study.h"
#include "store/benches/bench_names.h"

namespace session {

/// How a study's bench is called in the register.
[[nodiscard]] inline std::string registeredName(const core::Study& study) {
  return study.machine.empty() ? study.bench : store::standInFor(study.bench);
}

/// The machine that a study is about, as its sheet reaches it: this one, or the folder that stands for it. What of the
/// study reaches beyond its own folder is read only once a person has approved it.
class Machine {
 public:
  /// Both outlive it.
  Machine(bench::BenchConnection& own, const OpenStudy& open, std::string approvals)
      : own_(own), open_(open), approvals_(std::move(approvals)) {}

  /// What follows from the study as it is now, and from what is approved.
  void takeDesign();

  /// Where commands are started, and the study's own files read.
  [[nodiscard]] bench::BenchConnection& own() const { return own_; }
  /// What is set, captured and sampled.
  [[nodiscard]] bench::BenchConnection& bench() const { return stand_in_ ? *stand_in_ : own_; }
  /// Null where this machine is the bench. A copy may be kept by a thread that reads it.
  [[nodiscard]] const std::shared_ptr<bench::BenchConnection>& standIn() const { return stand_in_; }
  /// The stand-in's folder; empty where there is none.
  [[nodiscard]] std::string root() const;
  /// As registeredName of its study.
  [[nodiscard]] std::string registeredName() const { return session::registeredName(open_.study()); }
  /// Does a folder stand for the bench that nobody has approved yet? Then nothing of it can be read.
  [[nodiscard]] bool awaitsApproval() const;
  /// How far the bench's clock is ahead of this machine's, ms: what a stand-in tells in `clock_ahead_ms`; 0 otherwise.
  [[nodiscard]] std::int64_t clockAheadMs() const;
  /// Of this start of the machine; of one over ssh, of its last visit; empty where the passes run on one elsewhere.
  [[nodiscard]] std::string boot() const;

  /// Is every program that the study starts on this machine? Errors  Missing{program}
  [[nodiscard]] core::Status findPrograms() const;

  /// Everything that the study would do here, and what of it nobody on this machine has approved.
  [[nodiscard]] std::vector<Act> acts() const { return actsOf(open_.study(), open_.folder(), own_); }
  [[nodiscard]] std::vector<Act> unapprovedActs() const { return approvals_.missing(acts()); }
  /// Takes a person's approval of exactly those. Errors  Io
  core::Status approve();
  [[nodiscard]] bool mayRead(const StudyPath& path) const;

 private:
  bench::BenchConnection& own_;
  const OpenStudy& open_;
  Approvals approvals_;
  std::shared_ptr<bench::BenchConnection> stand_in_;
};

}  // namespace session
