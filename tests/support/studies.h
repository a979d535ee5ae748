#pragma once

#include "core/study/study.h"

namespace support {

/// A study whose passes are `command`; ready to run, one visit at each level.
inline core::Study studyOf(core::Command command, int passes = 2) {
  core::Study study;
  study.bench = "Dome node 3";
  study.variable().name = "memory speed";
  study.variable().levels[0].name = "4800 MT/s";
  study.variable().levels[1].name = "6000 MT/s";
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

/// A pair in rounds; which level begins each is drawn.
inline core::Study roundsOf(int rounds, int passes_per_visit = 1) {
  core::Study study = studyOf({"workload", "{log}"});
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = rounds;
  study.plan.passes_per_visit = passes_per_visit;
  study.plan.drawn = core::drawRounds(2, rounds, 1);
  return study;
}

/// A variable of the sample world: levels by their names, with what each offers, GB/s.
inline core::Variable linkOf(const std::vector<std::pair<std::string, double>>& levels) {
  core::Variable link;
  link.name = "graphics link";
  link.resource_unit = "GB/s";
  link.levels.clear();
  for (const auto& [name, rate] : levels) {
    core::Level level;
    level.name = name;
    level.resource = rate;
    link.levels.push_back(level);
  }
  return link;
}

/// A ladder of a link from Gen 1 to Gen 4, in rounds.
inline core::Study ladderOf(int rounds = 5, int passes_per_visit = 2) {
  core::Study study = studyOf({"ring", "{log}"});
  study.shape = core::Shape::Ladder;
  study.variables = {linkOf({{"Gen 1", 3.94}, {"Gen 2", 7.88}, {"Gen 3", 15.75}, {"Gen 4", 31.5}})};
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = rounds;
  study.plan.passes_per_visit = passes_per_visit;
  study.plan.drawn = core::drawRounds(4, rounds, 3);
  return study;
}

/// The same link's last two generations, crossed with a feature that is off or on.
inline core::Study crossedOf(int rounds = 5) {
  core::Study study = ladderOf(rounds);
  study.shape = core::Shape::Crossed;
  core::Variable feature;
  feature.name = "large aperture";
  feature.levels[0].name = "off";
  feature.levels[1].name = "on";
  study.variables = {linkOf({{"Gen 3", 15.75}, {"Gen 4", 31.5}}), feature};
  study.plan.drawn = core::drawRounds(4, rounds, 3);
  return study;
}

/// A chain: full-width slot, 4 lanes, the same in an external box, and back to the built-in screen.
inline core::Study chainOf(int rounds = 5) {
  core::Study study = ladderOf(rounds);
  study.shape = core::Shape::Chain;
  core::Variable slot = linkOf({{"x16", 31.5}, {"x4", 7.9}});
  slot.name = "slot";
  core::Variable box;
  box.name = "external box";
  box.levels = std::vector<core::Level>(3);
  box.levels[0].name = "none";
  box.levels[1].name = "Tarn dock";
  box.levels[2].name = "Tarn dock, own screen";
  study.variables = {slot, box};
  study.configurations = {{"full-width slot", {0, 0}},
                          {"same slot, 4 lanes", {1, 0}},
                          {"external box", {1, 1}},
                          {"box, own screen", {1, 2}}};
  study.plan.drawn = core::drawRounds(4, rounds, 3);
  return study;
}

}  // namespace support
