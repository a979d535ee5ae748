#pragma once

#include <map>
#include <set>
#include <string>

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace simbench {

/// What a level does to the four parts of a frame, as factors on their times: 0.8 is a part that takes 20 % less time.
struct Factors {
  double processor = 1;
  double graphics = 1;
  double memory = 1;
  double link = 1;
};

/// How one case behaves on this bench. Times are those at all factors 1.
struct CaseTruth {
  bool is_time = false;  ///< the result is one time in seconds instead of a frame log
  double processor_ms = 0;
  double graphics_ms = 0;
  double memory_ms = 0;
  double link_ms = 0;
  double overlap = 0.15;   ///< share of the parts that do not decide which is added all the same
  double seconds = 60;     ///< length of a pass with frames
  double pass_sd = 0.004;  ///< ln scale, from pass to pass
  double frame_sd = 0.04;  ///< ln scale, from frame to frame
  double frame_rho = 0.8;  ///< likeness of neighbouring frames
  double stutters_per_minute = 0;
  double stutter_ms = 0;            ///< added to a frame that stutters
  double stutter_memory_power = 0;  ///< how a stutter grows with the memory factor
  double load_s = 0;        ///< what loading takes at all factors 1, and grows with the memory factor; 0: untold
  int needs_gib = 0;        ///< of memory; with less it does not run
  int warns_below_gib = 0;  ///< with less it runs, and says so
};

/// How a run goes wrong: the program crashes, hangs, ends with an error, or leaves half a log.
enum class Fault { Crash, Hang, Error, BrokenLog };

/// The hidden truth of a simulated bench. Described in docs/simulated-bench.md.
struct Truth {
  std::uint64_t seed = 1;
  double visit_sd = 0;       ///< ln scale, what each restart adds to everything
  double heat_percent = 0;   ///< how much slower the bench gets when it is warm
  double heat_minutes = 20;  ///< time constant of warming up
  /// What a level, or an accident, does: to the frames, and to what the machine shows of itself.
  struct Influence {
    Factors factors;
    nlohmann::json machine = nlohmann::json::object();  ///< fields of Machine
    Factors beside = {};                                ///< besides, while a companion runs
  };
  struct Variable {
    std::string initial;
    std::map<std::string, Influence> levels;
    bool is_swapped = false;  ///< of two levels, setting the one brings the other: the menu's names are wrong
    bool is_one_way = false;  ///< what was exchanged does not come back
  };
  std::map<std::string, Variable> variables;
  Factors beside = {};                                ///< what a companion does to the frames of every case
  nlohmann::json machine = nlohmann::json::object();  ///< how this machine differs from the usual one
  std::map<std::int64_t, Influence> accidents;        ///< by the boot in which they happen, from 1
  std::set<std::int64_t> lost_restarts;               ///< by number, from 1: asked for, and not performed
  std::map<std::int64_t, Fault> faults;               ///< by the run in which they happen, from 1
  std::map<std::string, CaseTruth> cases;             ///< by "NAME@PRESET"
};

/// Reads a truth. Errors  Missing or Malformed with the field
[[nodiscard]] core::Result<Truth> truthFromJson(const nlohmann::json& object, const std::string& source_name);

}  // namespace simbench
