#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/estimate/effect.h"
#include "core/estimate/yardsticks.h"
#include "core/study/case.h"
#include "core/study/expected_reading.h"
#include "core/values/result.h"

namespace core {

/// A setting that a running Linux takes: a text written into a file of the kernel's.
struct SettingWrite {
  std::string path;  ///< below /sys/ or /proc/sys/; * stands for any text between two slashes
  std::string value;
  auto operator<=>(const SettingWrite&) const = default;
};

/// One setting of the variable: how a pass runs at it, and how the bench is brought to it.
struct Level {
  std::string name;
  Command prefix;  ///< put before every command of a pass, e.g. {"taskset", "-c", "0"}; may be empty
  std::vector<std::pair<std::string, std::string>> environment;  ///< set for every pass
  Command set_command;               ///< run once at the start of each visit to bring the level about; may be empty
  std::vector<SettingWrite> writes;  ///< done at the start of each visit and taken back after it; may be empty
  std::string menu_path;             ///< where a person finds it on this bench: "Advanced > Memory > Profile 1"
  std::optional<ExpectedReading> reads = {};  ///< what a capture must read at it; else its name lets expect something

  bool operator==(const Level&) const = default;
};

/// In which order the levels are visited. `Blocked`: all passes of the baseline, then all of the changed level.
/// `ThereAndBack`: baseline, changed, changed, baseline, with a flip before each: a rough look that sees flips.
/// `BalancedShuffle`: rounds of one visit at each level; as many begin with the baseline as with the changed level,
/// which ones is drawn. The order that a steady drift and a careless habit can do least to.
enum class Order { Blocked, ThereAndBack, BalancedShuffle };
[[nodiscard]] const char* orderName(Order order);

/// What is known of the bench's noise and of how long its work takes, or guessed: for planning only.
struct PlanningGuess {
  double pass_spread_percent = 1;    ///< from pass to pass within a visit
  double flip_spread_percent = 0.5;  ///< what each flip adds
  double flip_minutes = 5;           ///< with settling
  double visit_pass_minutes = 2;     ///< one pass of every case together

  bool operator==(const PlanningGuess&) const = default;
};

/// How often, in what order. Fixed before the first pass.
struct Plan {
  int passes_per_level = 5;  ///< for Blocked and ThereAndBack
  int warm_ups = 1;          ///< at the start of each visit, for each case; recorded, never counted
  Order order = Order::ThereAndBack;
  double time_limit_s = 600;     ///< for one pass; then it is stopped and kept as failed
  int rounds = 5;                ///< for BalancedShuffle
  int passes_per_visit = 2;      ///< for BalancedShuffle, of each case
  int seed = 0;                  ///< from which the order was drawn; the order is what counts
  std::vector<Side> drawn = {};  ///< for BalancedShuffle: the level that each round begins with
  PlanningGuess guess = {};
  double settle_s = 0;             ///< waited at the start of each visit, before anything is measured
  double settle_to_c = 0;          ///< and until the hottest part is this cool, °C; 0: time alone decides
  double most_settle_s = 900;      ///< waited for that temperature, at most
  double quiet_wait_s = 0;         ///< waited before each pass until other programs keep still, at most; 0: not at all
  int retries = 0;                 ///< further attempts at a pass that failed; each is on record
  int most_failures_in_a_row = 5;  ///< then the sheet is held: something is wrong with the bench, not with a pass
  bool is_sealed = true;  ///< no estimate is shown before the plan is complete, so nobody stops when it looks good
  /// After which complete rounds the results may be looked at, and the study stopped: chosen with the plan, at most 3,
  /// the last at its end. Every interval pays for them. Empty: one look, at the end.
  std::vector<int> looks = {};
  /// For Blocked: the flip is for good, a part that nobody swaps back. Restarts before it tell what a flip adds.
  bool is_one_way = false;
  int extension_rounds = 0;  ///< of `rounds`: added once after the plan was complete, sized from the spread alone

  bool operator==(const Plan&) const = default;
};

/// A balanced shuffle's order: which level each of so many rounds begins with. An odd one out is drawn too.
/// The same seed yields the same order on every machine.
[[nodiscard]] std::vector<Side> drawRounds(int rounds, int seed);

/// So many looks spread evenly over the rounds, the last at their end; none before the third round, which is the first
/// with an interval. Empty for one look or fewer, and where there are too few rounds.
[[nodiscard]] std::vector<int> evenLooks(int looks, int rounds);

/// What the bench is to be like. `AsDelivered`: the machine as its users have it; what comes along with the change is a
/// part of the answer. `WithHeadroom`: everything but the variable is lifted out of the way, so that it can show; what
/// comes along is to be held, and a limit that sets in spoils the pass.
enum class School { AsDelivered, WithHeadroom };
[[nodiscard]] const char* schoolName(School school);
/// What a school asks of the bench before the first pass, as sentences.
[[nodiscard]] std::vector<std::string> schoolAsks(School school);

/// One question about one bench. levels[0] is the baseline.
struct Study {
  std::string bench;
  std::string variable;
  std::string kind;    ///< id of a core::VariableKind; empty: not declared, so nothing can prove that it moved
  std::string device;  ///< PCI address of the device under test; empty: the graphics device that shows the picture
  std::vector<std::string> fields;  ///< for the kind "other": the facts that must change, * stands for any text
  std::vector<std::string> held;    ///< facts that the tester holds equal besides, * stands for any text
  std::map<std::string, std::string> released;  ///< held conditions and facts that may differ after all, and why
  Command measure_command;    ///< prints what a level yields, as one JSON object; empty: nothing is measured
  Command stability_command;  ///< exits with 0 when a level works without error; empty: a person says so, or nobody
  School school = School::AsDelivered;
  bool is_null = false;  ///< the flip is performed, but the level stays: it measures the bench's noise floor
  std::string machine;   ///< a folder that stands for the bench, seen from the study's; empty: this machine
  /// Is the bench the computer that the program runs on? Where nobody says so: unless every result is typed by hand.
  std::optional<bool> is_this_machine = {};
  std::array<Level, 2> levels;
  std::vector<Case> cases;
  Plan plan;
  double notice_threshold_percent = 2;
  double confidence = 0.95;
  double target_fps = 60;
  double band_percent = 3;                    ///< of the fixed band, a yardstick beside the interval
  Yardstick yardstick = Yardstick::Interval;  ///< by which the headline is judged

  /// The confidence of every interval: with planned looks it is higher, so that all looks together keep what was asked.
  /// Source  Bonferroni over three looks
  [[nodiscard]] double intervalConfidence() const { return plan.looks.empty() ? confidence : 1 - (1 - confidence) / 3; }
  [[nodiscard]] const Level& level(Side side) const { return levels[static_cast<std::size_t>(side)]; }
  bool operator==(const Study&) const = default;
};

/// Is there a machine here that can be captured: this computer, or the folder that stands for it? Not where people type
/// what they read off another one.
[[nodiscard]] bool isBenchHere(const Study& study);

/// Does a person bring the levels about, with no command, variable or setting that would? Only a study that declares
/// its kind says so; one without a kind may well compare a thing with itself.
[[nodiscard]] bool isSetByHand(const Study& study);

/// Does a level write a limit of power, voltage or clock beyond which the maker did not go? Such a level is not left
/// unattended: each of its visits waits for a person.
[[nodiscard]] bool raisesLimits(const Level& level);

/// Everything that keeps the study from being run, each with place and remedy; empty when it is ready.
[[nodiscard]] std::vector<Error> problemsOf(const Study& study);

/// Those of them that are a number out of its range: no plan is made and nothing is judged by such a study, not even
/// one that a file holds.
[[nodiscard]] std::vector<Error> numbersOutOfRange(const Study& study);

/// One command exactly as it would be started, or one setting as it would be written: what a person approves.
struct ExactCommand {
  std::vector<std::pair<std::string, std::string>> environment;
  Command command;
  std::optional<SettingWrite> write = {};  ///< then there is no command
  auto operator<=>(const ExactCommand&) const = default;
};

/// The exact command of a pass ("{log}" still in it), and of setting a level.
[[nodiscard]] ExactCommand passCommand(const Level& level, const Case& a_case);

/// The exact command by which a level is measured; empty where it is not.
[[nodiscard]] ExactCommand measureCommand(const Study& study, Side side);

/// The exact command by which a level is tested for errors; empty where it is not.
[[nodiscard]] ExactCommand stabilityCommand(const Study& study, Side side);

/// Every different command that running the study would start, in the order of first use.
[[nodiscard]] std::vector<ExactCommand> commandsOf(const Study& study);

/// Everything that needs a person's approval: the commands, and the settings that would be written.
[[nodiscard]] std::vector<ExactCommand> actsOf(const Study& study);

/// Settings are the kernel's own: a study file must not write anywhere else.
[[nodiscard]] bool isSettingPath(const std::string& path);

/// For reading, not for a shell: each word as shownWord has it, variables in front.
[[nodiscard]] std::string displayText(const ExactCommand& command);

}  // namespace core
