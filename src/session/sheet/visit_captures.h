#pragma once

#include <QObject>
#include <functional>
#include <string>

#include "session/study/machine.h"
#include "session/study/open_study.h"
#include "session/user/background.h"
#include "store/benches/bench_register.h"

namespace session {

/// What the machine says of itself in each visit: at its start, under load, at its end. Read beside the caller's
/// thread, since a machine may take its time to answer, and filed in it.
class VisitCaptures {
 public:
  using Then = std::function<void(const core::Status&)>;

  /// All outlive it. `root_facts`: the file with what only root can read.
  VisitCaptures(OpenStudy& open, Machine& machine, store::BenchRegister& benches, Background& background,
                std::string root_facts)
      : open_(open),
        machine_(machine),
        benches_(benches),
        background_(background),
        root_facts_(std::move(root_facts)) {}

  /// While a sheet runs; what comes back afterwards is not filed.
  void setOpen(bool is_open) { is_open_ = is_open; }
  /// Of the visit in hand. Once for each moment; where people type what another machine shows, this one says nothing.
  void take(core::CaptureMoment moment, const Then& then);
  /// The machine as it is now, filed nowhere: to see where the bench stands before its first visit.
  void look(const std::function<void(const core::Capture&)>& then);
  [[nodiscard]] bool has(std::int64_t visit_id, core::CaptureMoment moment) const;

 private:
  [[nodiscard]] core::Status file(std::int64_t visit_id, core::CaptureMoment moment, core::Capture capture);
  [[nodiscard]] std::vector<core::Fact> graphicsDrivers(std::int64_t visit_id, core::CaptureMoment moment) const;
  [[nodiscard]] std::function<core::Capture()> capturing(core::CaptureMoment moment) const;

  OpenStudy& open_;
  Machine& machine_;
  store::BenchRegister& benches_;
  Background& background_;
  std::string root_facts_;
  bool is_open_ = false;
};

}  // namespace session
