#pragma once

#include "session/study/machine.h"
#include "session/study/open_study.h"
#include "session/user/background.h"
#include "store/benches/bench_register.h"

namespace session {

/// What a bench remembers from study to study: a new one begins with it, and leaves what it has learnt. All is a
/// repetition of what the studies hold; a register that cannot be written holds nothing up.
class BenchMemory {
 public:
  /// All outlive it; what takes long happens in `background`.
  BenchMemory(OpenStudy& open, const Machine& machine, store::BenchRegister& benches, Background& background)
      : open_(open), machine_(machine), benches_(benches), background_(background) {}

  /// A study that visits each level once cannot see what flipping adds. The bench's latest null study can: its values
  /// are copied into the study before the first pass, so that the same study has the same numbers for good.
  void takeNullStudy();
  /// As a question is asked: where its levels are found, and what is ticked on the way there.
  void rememberLevels();
  /// Before a sheet starts: its cases are at hand for the next study of this bench, and so are its levels.
  void rememberWorkloads();
  /// As a sheet ends: what the next plans on this bench rest on, and how repeatable each case was.
  void rememberPasses();

 private:
  void rememberNoise();
  OpenStudy& open_;
  const Machine& machine_;
  store::BenchRegister& benches_;
  Background& background_;
};

}  // namespace session
