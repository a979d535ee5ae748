#include "simbench/commands.h"

#include <chrono>
#include <csignal>
#include <cstdio>
#include <fstream>
#include <thread>

#include <fmt/format.h>
#include <CLI/CLI.hpp>

#include "simbench/bench_state.h"
#include "simbench/companion.h"
#include "simbench/measure.h"
#include "simbench/model.h"
#include "simbench/shown_use.h"

namespace simbench {
namespace {

using core::Error;
using core::ErrorKind;
using core::Status;
using nlohmann::ordered_json;

struct Options {
  std::string state = ".";
  std::string truth;
  std::string assignment;
  bool reboot = false;
  std::string case_name;
  std::string log_path;
  std::string measured;
  double pace = 1;
  std::int64_t clock_ahead_ms = 0;
};

// Asked to end, a workload finishes its log, as a well-made one does.
volatile std::sig_atomic_t is_asked_to_end = 0;

/// What a planted fault leaves of a run: half a log, and a program that is gone, hangs or complains.
Status fail(Fault fault, const std::string& log_path) {
  if (!log_path.empty())
    std::ofstream(log_path) << "frame_ms\n12.5\n12.6\n" << (fault == Fault::BrokenLog ? "-12.7\n" : "12.");
  switch (fault) {
    case Fault::Crash:
      std::signal(SIGSEGV, SIG_DFL);
      std::raise(SIGSEGV);
      break;
    case Fault::Hang: std::this_thread::sleep_for(std::chrono::hours(1)); break;
    case Fault::Error: break;
    case Fault::BrokenLog: return core::Done{};
  }
  return Error{ErrorKind::CommandFailed, "the save would not load", "run", "Run it again"};
}

/// Writes frames as they fall due, so that somebody who watches the log sees the pass advance.
Status writeLog(const std::string& path, const std::vector<double>& frame_ms, double pace) {
  using Clock = std::chrono::steady_clock;
  std::FILE* log = std::fopen(path.c_str(), "w");
  if (!log) return Error{ErrorKind::Io, "the frame log cannot be written", path, "Check the folder"};
  std::fputs("frame_ms\n", log);
  const auto begin = Clock::now();
  double now_ms = 0;
  for (const double d : frame_ms) {
    if (is_asked_to_end != 0) break;
    std::fputs(fmt::format("{:.4f}\n", d).c_str(), log);
    now_ms += d;
    const auto due = begin + std::chrono::duration<double, std::milli>(now_ms * pace);
    if (pace > 0 && due > Clock::now() + std::chrono::milliseconds(100)) {
      std::fflush(log);
      std::this_thread::sleep_until(due);
    }
  }
  const bool is_written = std::ferror(log) == 0;
  if (std::fclose(log) == 0 && is_written) return core::Done{};
  return Error{ErrorKind::DiskFull, "the frame log could not be written whole", path, "Free some space"};
}

// Counters only grow, as long as the machine is not restarted.
void countErrors(const BenchState& state) {
  const Machine machine = state.machine();
  const auto grow = [&](const std::string& file, int by, const auto& text) {
    const std::string path = state.folder + "/machine/sys/" + file;
    if (by == 0) return;
    std::ifstream before(path);
    std::string word;
    long count = 0;
    while (before >> word)
      if (word.find_first_not_of("0123456789") == std::string::npos) count = std::stol(word);
    before.close();
    std::ofstream(path) << text(count + by);
  };
  grow("devices/system/edac/mc/mc0/ce_count", machine.corrected_errors,
       [](long count) { return fmt::format("{}\n", count); });
  grow("bus/pci/devices/0000:00:01.0/aer_dev_correctable", machine.link_errors,
       [](long count) { return fmt::format("RxErr {0}\nTOTAL_ERR_COR {0}\n", count); });
}

// Some cases need more memory than a level has, or run with less and complain.
Status fitsIntoMemory(const BenchState& state, const CaseTruth& a_case, std::ostream& out) {
  const Machine machine = state.machine();
  const int gib = machine.memory_modules * machine.memory_gib;
  if (gib < a_case.needs_gib)
    return Error{ErrorKind::TooFew, fmt::format("not enough memory: {} GiB, and {} are needed", gib, a_case.needs_gib),
                 state.folder, "Choose a smaller preset, or a level with more"};
  if (gib < a_case.warns_below_gib) out << "LOW MEMORY\n";
  return core::Done{};
}

Status runPass(const Options& options, std::ostream& out) {
  auto state = loadBench(options.state);
  if (!state) return state.error();
  const auto found = state->truth.cases.find(options.case_name);
  if (found == state->truth.cases.end())
    return Error{ErrorKind::Missing, "this bench has no case '" + options.case_name + "'", options.state,
                 "Look into truth.json"};
  if (!found->second.is_time && options.log_path.empty())
    return Error{ErrorKind::Missing, "this case writes a frame log", "run", "Say where with --out"};
  if (auto fits = fitsIntoMemory(*state, found->second, out); !fits) return fits;
  ++state->runs;
  state->has_companion = hasCompanion(options.state);
  const PassResult pass = simulatePass(*state, found->second, options.case_name);
  state->warm_minutes += pass.seconds / 60;
  state->clock_ahead_ms += static_cast<std::int64_t>(1000 * pass.seconds * std::max(0.0, 1 - options.pace));
  if (auto saved = saveBench(*state); !saved) return saved;
  showUse(*state, pass);
  countErrors(*state);
  if (const auto fault = state->truth.faults.find(state->runs); fault != state->truth.faults.end())
    return fail(fault->second, options.log_path);
  std::signal(SIGTERM, [](int) { is_asked_to_end = 1; });
  if (pass.load_s > 0) out << fmt::format("loaded in {:.3f} s\n", pass.load_s);
  if (found->second.is_time) {
    if (options.pace > 0) std::this_thread::sleep_for(std::chrono::duration<double>(pass.seconds * options.pace));
    out << ordered_json{{"case", options.case_name}, {"seconds", pass.seconds}}.dump() << '\n';
    return core::Done{};
  }
  if (auto written = writeLog(options.log_path, pass.frame_ms, options.pace); !written) return written;
  out << ordered_json{{"case", options.case_name}, {"frames", pass.frame_ms.size()}, {"seconds", pass.seconds}}.dump()
      << '\n';
  return core::Done{};
}

Status measure(const Options& options, std::ostream& out) {
  const auto state = loadBench(options.state);
  if (!state) return state.error();
  const auto measured = simulateMeasurement(*state, options.measured);
  if (!measured) return measured.error();
  out << measured->dump() << '\n';
  return core::Done{};
}

Status changeState(const Options& options, bool is_set) {
  auto state = loadBench(options.state);
  if (!state) return state.error();
  if (is_set)
    if (auto set = setLevel(*state, options.assignment); !set) return set;
  const bool restarts = (!is_set || options.reboot) && reboot(*state);
  // The state first: killed in between, the next restart is another one, and the machine shows it.
  if (auto saved = saveBench(*state); !saved || !restarts) return saved;
  return saveMachine(*state);
}

}  // namespace

int runCommandLine(int argc, const char* const* argv, std::ostream& out, std::ostream& err) {
  CLI::App app("A simulated machine in a folder: a stand-in for a bench, with a hidden truth");
  app.set_version_flag("--version", "iron-lever-simbench " IRON_LEVER_VERSION);
  app.require_subcommand(1);
  Options options;
  const auto with_state = [&](CLI::App* command) {
    command->add_option("--state", options.state, "The bench's folder");
    return command;
  };
  CLI::App* init = with_state(app.add_subcommand("init", "Make a bench from a truth file"));
  init->add_option("--truth", options.truth, "The hidden truth (JSON)")->required();
  init->add_option("--clock-ahead-ms", options.clock_ahead_ms, "How far its clock is ahead of the true one");
  CLI::App* set =
      with_state(app.add_subcommand("set", "Set VARIABLE=LEVEL in the firmware; takes effect after a restart"));
  set->add_option("assignment", options.assignment, "VARIABLE=LEVEL")->required();
  set->add_flag("--reboot", options.reboot, "Restart at once");
  with_state(app.add_subcommand("reboot", "Restart: what was set takes effect, the boot id changes"));
  CLI::App* run = with_state(app.add_subcommand("run", "Run one pass of a case"));
  run->add_option("--case", options.case_name, "NAME@PRESET")->required();
  run->add_option("--out", options.log_path, "Where the frame log goes (cases with frames)");
  run->add_option("--pace", options.pace, "1 = as long as the real thing, 0 = as fast as it can")
      ->check(CLI::NonNegativeNumber);
  CLI::App* beside =
      with_state(app.add_subcommand("beside", "Run beside the passes until asked to end, and slow them down"));
  CLI::App* measuring = with_state(app.add_subcommand("measure", "Print what the machine yields, as the probe does"));
  measuring->add_option("what", options.measured, "memory, memory-test, copy or compute")->required();
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& e) {
    return app.exit(e, out, err) == 0 ? 0 : 2;
  }
  Status done = core::Done{};
  if (init->parsed()) {
    if (auto made = initBench(options.state, options.truth, options.clock_ahead_ms); !made) done = made.error();
  } else if (beside->parsed()) {
    done = runCompanion(options.state, out);
  } else if (measuring->parsed()) {
    done = measure(options, out);
  } else if (run->parsed()) {
    done = runPass(options, out);
  } else {
    done = changeState(options, set->parsed());
  }
  if (done) return 0;
  err << done.error().sentence() << '\n';
  return done.error().kind == ErrorKind::TooFew ? 3 : 1;  // of memory, which is no failure of the bench
}

}  // namespace simbench
