#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "core/estimate/units.h"
#include "core/estimate/yardsticks.h"
#include "core/study/case.h"
#include "core/study/variable.h"
#include "core/values/result.h"

namespace core {

/// In which order the configurations are visited. `Blocked`: all passes of the first, then all of the next.
/// `ThereAndBack`: first to last and back, with a flip before each: a rough look that sees flips. `BalancedShuffle`:
/// rounds of one visit at each; every configuration comes as often in every place as the number of rounds allows, and
/// follows each other one as often; which round has which order is drawn. The order that a steady drift and a careless
/// habit can do least to.
enum class Order { Blocked, ThereAndBack, BalancedShuffle };
[[nodiscard]] const char* orderName(Order order);

/// The configurations of one round, in the order in which they are visited.
using RoundOrder = std::vector<ConfigurationId>;

/// What is known of the bench's noise and of how long its work takes, or guessed: for planning only.
struct PlanningGuess {
  double pass_spread_percent = 1;    ///< from pass to pass within a visit
  double flip_spread_percent = 0.5;  ///< what each flip adds
  double flip_minutes = 5;           ///< with settling
  double visit_pass_minutes = 2;     ///< one pass of every case together
  double pass_spread_units = 0;      ///< of results that are differences, in their unit; 0: nobody knows
  double flip_spread_units = 0;

  bool operator==(const PlanningGuess&) const = default;
};

/// Which question of crossed variables a plan is to be large enough for: one configuration against another, what a
/// variable does on the whole, or whether it does the same at each level of the other.
enum class PlannedFor { Difference, MainEffect, Interaction };

/// What the intervals of more than two configurations in rounds take their spread from: what a contrast compares alone,
/// or all configurations, mixed half and half with its own.
enum class Spread { Own, Shared };
/// "own", "shared". Scripts may rely on it.
[[nodiscard]] const char* spreadName(Spread spread);

/// What planned looks cost the intervals. A third of the error each, whatever their number; or spent as the rounds come
/// in, hardly any early and nearly all at the end.
enum class LookPrice { Thirds, Spending };

/// Where the intervals of an extended plan take their spread from. A size that was chosen by a spread makes the spread
/// of all rounds a little too small; that of the first part alone stays honest.
/// Source  two-stage rule of Stein 1945
enum class ExtensionSpread { All, FirstPart };

/// How often, in what order. Fixed before the first pass.
struct Plan {
  int passes_per_level = 5;  ///< for Blocked and ThereAndBack
  int warm_ups = 1;          ///< at the start of each visit, for each case; recorded, never counted
  Order order = Order::ThereAndBack;
  double time_limit_s = 600;           ///< for one pass; then it is stopped and kept as failed
  int rounds = 5;                      ///< for BalancedShuffle
  int passes_per_visit = 2;            ///< for BalancedShuffle, of each case
  int seed = 0;                        ///< from which the order was drawn; the order is what counts
  std::vector<RoundOrder> drawn = {};  ///< for BalancedShuffle: what each round visits, in order
  /// For BalancedShuffle of two crossed variables: the variable that is flipped as rarely as can be, for it takes long.
  /// Within a round the visits at one of its levels follow each other. Empty: each order comes as often.
  std::string grouped_by = {};
  PlannedFor planned_for = PlannedFor::Difference;
  PlanningGuess guess = {};
  double settle_s = 0;             ///< waited at the start of each visit, before anything is measured
  double settle_to_c = 0;          ///< and until the hottest part is this cool, °C; 0: time alone decides
  double most_settle_s = 900;      ///< waited for that temperature, at most
  double quiet_wait_s = 0;         ///< waited before each pass until other programs keep still, at most; 0: not at all
  int retries = 0;                 ///< further attempts at a pass that failed; each is on record
  int most_failures_in_a_row = 5;  ///< then the sheet is held: something is wrong with the bench, not with a pass
  bool is_sealed = true;  ///< no estimate is shown before the plan is complete, so nobody stops when it looks good
  /// After which complete rounds the results may be looked at, and the study stopped: chosen with the plan, the last at
  /// its end; at most 3, of those that are paid by spending 5. Empty: one look, at the end.
  std::vector<int> looks = {};
  LookPrice look_price = LookPrice::Thirds;  ///< that of studies which do not say
  /// For Blocked: the flip is for good, a part that nobody swaps back. Restarts before it tell what a flip adds.
  bool is_one_way = false;
  Spread spread = Spread::Own;  ///< part of the question, never chosen by the data; that of studies which do not say
  int extension_rounds = 0;     ///< of `rounds`: added once after the plan was complete, sized from the spread alone
  ExtensionSpread extension_spread = ExtensionSpread::All;  ///< that of studies which do not say
  int second_part_rounds = 0;  ///< of `rounds`, the last: of the cases that were added later, and of no others

  [[nodiscard]] int firstPartRounds() const { return rounds - second_part_rounds; }
  [[nodiscard]] bool isOfSecondPart(int round) const { return round > firstPartRounds(); }
  /// Does this round only add to the mean, since its number was chosen by the spread of those before?
  [[nodiscard]] bool isSizedBySpread(int round) const {
    return extension_spread == ExtensionSpread::FirstPart && !isOfSecondPart(round) &&
           round > firstPartRounds() - extension_rounds;
  }
  bool operator==(const Plan&) const = default;
};

/// A balanced shuffle's order: what each of so many rounds visits. Of a pair as many rounds begin with the one as with
/// the other; of more the rows of balanced squares, each used before any comes again. What is left over is drawn too.
/// The same seed yields the same order on every machine.
/// Source  Williams 1949
[[nodiscard]] std::vector<RoundOrder> drawRounds(std::size_t configurations, int rounds, int seed);

/// Rounds in which the configurations of a block follow each other. Which block comes first, and the order within each,
/// are balanced and drawn as above; a round that begins in the block where the one before ended begins with the same
/// configuration.
[[nodiscard]] std::vector<RoundOrder> drawBlockedRounds(const std::vector<RoundOrder>& blocks, int rounds, int seed);

/// The rounds of a pair, by what each begins with.
[[nodiscard]] std::vector<RoundOrder> pairRounds(const std::vector<ConfigurationId>& first);

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

/// One question about one bench.
struct Study {
  std::string bench;
  Shape shape = Shape::Pair;
  std::vector<Variable> variables = std::vector<Variable>(1);  ///< at least one
  /// Those that are measured, where the design lists them: always of a chain, of a crossing that leaves cells out.
  /// Empty: what follows from the variables.
  std::vector<Configuration> configurations = {};
  std::vector<std::string> held;                ///< facts that the tester holds equal besides, * stands for any text
  std::map<std::string, std::string> released;  ///< held conditions and facts that may differ after all, and why
  Command measure_command;    ///< prints what a level yields, as one JSON object; empty: nothing is measured
  Command stability_command;  ///< exits with 0 when a level works without error; empty: a person says so, or nobody
  School school = School::AsDelivered;
  bool is_null = false;  ///< the flip is performed, but the level stays: it measures the bench's noise floor
  std::string machine;   ///< a folder that stands for the bench, seen from the study's; empty: this machine
  /// Is the bench the computer that the program runs on? Where nobody says so: unless every result is typed by hand.
  std::optional<bool> is_this_machine = {};
  std::string ssh_name;    ///< by which ssh reaches the bench; empty: it is not another computer. See study/reach.h
  std::string ssh_config;  ///< a configuration that ssh is handed, seen from the study's folder; empty: its own
  std::vector<Case> cases;
  Plan plan;
  double notice_threshold_percent = 2;
  std::optional<double> notice_threshold_ms = {};  ///< a frame; of the two the larger one holds in each case
  double confidence = 0.95;  ///< of all that the study says together; what its looks cost: study/look_confidences.h
  double target_fps = 60;
  std::vector<double> further_targets_fps = {};  ///< told beside it: whether each level holds them, in how many frames
  double band_percent = 3;                       ///< of the fixed band, a yardstick beside the interval
  Yardstick yardstick = Yardstick::Interval;     ///< by which the headline is judged

  /// The target rate, then the further ones.
  [[nodiscard]] std::vector<double> targets() const;
  /// The first variable: of a pair and of a ladder the only one.
  [[nodiscard]] Variable& variable() { return variables.front(); }
  [[nodiscard]] const Variable& variable() const { return variables.front(); }
  [[nodiscard]] std::size_t configurationCount() const;
  /// Do its intervals take part of their spread from configurations that they do not compare? Only rounds of more than
  /// two can.
  [[nodiscard]] bool sharesSpread() const {
    return plan.spread == Spread::Shared && plan.order == Order::BalancedShuffle && configurationCount() > 2;
  }
  /// How many cases the study was asked with: the first of the list. Those of a second part follow; none of their
  /// numbers is in the answer of the first, and neither is judged among the other.
  [[nodiscard]] std::size_t firstPartCases() const;
  /// One level of each variable, by their places.
  [[nodiscard]] std::vector<std::size_t> levelsAt(ConfigurationId configuration) const;
  /// A level's name; "Gen 4, on" where variables are crossed; what a chain calls it.
  [[nodiscard]] std::string nameOf(ConfigurationId configuration) const;
  /// The one that the others are compared with: each variable at its baseline; the first of a chain.
  [[nodiscard]] ConfigurationId baseline() const;
  bool operator==(const Study&) const = default;
};

/// Is there a machine here that can be captured: this computer, or the folder that stands for it? Not where people type
/// what they read off another one.
[[nodiscard]] bool isBenchHere(const Study& study);

/// Does a person bring a variable's levels about, with no command, variable or setting that would? Only one that
/// declares its kind says so; one without a kind may well compare a thing with itself.
[[nodiscard]] bool isSetByHand(const Variable& variable);
/// Any of its variables.
[[nodiscard]] bool isSetByHand(const Study& study);

/// The configurations of two crossed variables by the level of one of them; empty for any other study, and for a name
/// that is none of its variables'.
[[nodiscard]] std::vector<RoundOrder> blocksOf(const Study& study, const std::string& grouped_by);
/// Rounds as the study's plan wants them drawn.
[[nodiscard]] std::vector<RoundOrder> drawRoundsOf(const Study& study, const Plan& plan, int rounds, int seed);

/// Does the plan's guess say what a flip of the variable takes? Where the design does not, of the only variable, and of
/// one whose kind nobody knows.
[[nodiscard]] bool isFlipGuessed(const Study& study, const Variable& variable);
/// What bringing one variable to another level takes, in minutes: as the design says, by the plan's guess, or as its
/// kind usually does.
[[nodiscard]] double flipMinutes(const Study& study, const Variable& variable);
/// The same from one configuration to another: of the variables that move; of all where none does, since then a flip of
/// its own is due, or where there was none before.
[[nodiscard]] double flipMinutes(const Study& study, std::optional<ConfigurationId> from, ConfigurationId to);

/// Every configuration of a study, in order.
[[nodiscard]] std::vector<ConfigurationId> configurationsOf(const Study& study);
/// Nothing where none is called so.
[[nodiscard]] std::optional<ConfigurationId> findConfiguration(const Study& study, std::string_view name);
[[nodiscard]] Setup setupOf(const Study& study, ConfigurationId configuration);
/// The variables, by their places, in which two configurations differ.
[[nodiscard]] std::vector<std::size_t> movedBetween(const Study& study, ConfigurationId from, ConfigurationId to);

/// Does a setup write a limit of power, voltage or clock beyond which the maker did not go? Such a level is not left
/// unattended: each of its visits waits for a person.
[[nodiscard]] bool raisesLimits(const Setup& setup);

/// Has nobody chosen anything of it yet?
[[nodiscard]] bool isUnasked(const Variable& variable);

/// Everything that keeps the study from being run, each with place and remedy; empty when it is ready.
[[nodiscard]] std::vector<Error> problemsOf(const Study& study);

/// Those of them that everything else takes for granted: how many variables, levels and configurations there are, and
/// that each place exists. No other function takes a study that has any.
[[nodiscard]] std::vector<Error> shapeProblems(const Study& study);

/// Those of them that are a number out of its range: no plan is made and nothing is judged by such a study, not even
/// one that a file holds.
[[nodiscard]] std::vector<Error> numbersOutOfRange(const Study& study);

/// The exact command of a pass ("{log}" still in it), and of setting a level.
[[nodiscard]] ExactCommand passCommand(const Setup& setup, const Case& a_case);

/// The exact command of what runs beside a pass; empty where nothing does.
[[nodiscard]] ExactCommand companionCommand(const Setup& setup, const Case& a_case);

/// The exact command by which a configuration is measured; empty where it is not.
[[nodiscard]] ExactCommand measureCommand(const Study& study, ConfigurationId configuration);

/// The exact command by which a configuration is tested for errors; empty where it is not.
[[nodiscard]] ExactCommand stabilityCommand(const Study& study, ConfigurationId configuration);

/// Every different command that running the study would start, in the order of first use.
[[nodiscard]] std::vector<ExactCommand> commandsOf(const Study& study);

/// Everything that needs a person's approval: the commands, and the settings that would be written.
[[nodiscard]] std::vector<ExactCommand> actsOf(const Study& study);

/// Settings are the kernel's own: a study file must not write anywhere else.
[[nodiscard]] bool isSettingPath(const std::string& path);

/// For reading, not for a shell: each word as shownWord has it, variables in front.
[[nodiscard]] std::string displayText(const ExactCommand& command);

}  // namespace core
