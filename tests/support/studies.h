#pragma once

#include "core/study/study.h"

namespace support {

/// A study whose passes are `command`; ready to run, one visit at each level.
inline core::Study studyOf(core::Command command, int passes = 2) {
  core::Study study;
  study.bench = "Dome node 3";
  study.variable = "memory speed";
  study.levels[0].name = "4800 MT/s";
  study.levels[1].name = "6000 MT/s";
  core::Case a_case;
  a_case.workload = "Ring pass";
  a_case.preset = "4K dome";
  a_case.command = std::move(command);
  study.cases = {a_case};
  study.plan = {passes, 0, core::Order::Blocked, 20};
  study.plan.is_sealed = false;  // most tests look at a study as it grows
  return study;
}

/// The same, its result a number that the command prints as {"seconds": ...}.
inline core::Study timedStudyOf(core::Command command, int passes = 2) {
  core::Study study = studyOf(std::move(command), passes);
  study.cases[0].source = core::ResultSource::JsonField;
  study.cases[0].field = "seconds";
  study.cases[0].metric = {"render time", "s", core::Direction::LowerIsBetter};
  return study;
}

}  // namespace support
