#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/machine/device_path.h"
#include "core/machine/fact.h"

namespace core {

/// What the settings of two levels let expect of a measurement.
enum class ExpectedStep {
  Unknown,     ///< no arithmetic says; the measurement is shown, not judged
  None,        ///< the same at both: what is measured must not change
  LinkRate,    ///< as the encoded rate of the narrowest hop
  MemoryRate,  ///< as the peak of main memory
  Cores        ///< as the number of cores
};

/// On which side of the machine a kind of variable acts.
enum class ActsOn { Anything, Processor, Graphics, Link };

/// A setting of a kind that a running Linux can be told to take.
struct KindWrite {
  std::string_view what;    ///< "governor of every core"
  std::string_view path;    ///< as core::SettingWrite::path
  std::string_view values;  ///< what may be written, for a person: "performance, powersave"
};

/// A kind of platform variable: which facts must move with it, which may come along, and how a person changes it
/// safely. Every configuration fact that is not named here must not change: a comparison is about one variable. Fields
/// are patterns (* stands for any text) with places: {device} the device under test, {slot} both ends of its slot's
/// link, {path} every port and device on its way.
struct VariableKind {
  std::string_view id;                        ///< stable, in snake case; stands in study files and on the command line
  std::string_view title;                     ///< "PCIe generation"
  ActsOn acts_on = ActsOn::Anything;          ///< where its change can show
  std::string_view noun;                      ///< in a sentence: "the link change"
  bool needs_reboot = false;                  ///< two captures of one boot cannot show it
  bool restarts_by_hand = false;              ///< a running system may set it, but a person restarts to do so
  bool needs_stability_test = false;          ///< a level that seems to work may still make errors
  bool is_link = false;                       ///< a link is only to be trusted under load
  bool is_whole = false;                      ///< one part against another as wholes: much must change
  std::vector<std::string_view> must_change;  ///< every fact that fits must change; none may be missing
  std::vector<std::string_view> any_of;       ///< at least one fact that fits must change; the others come along
  std::vector<std::string_view> comes_along;
  std::vector<std::string_view> must_stay;  ///< even where comes_along would let it go: what must travel along
  std::vector<std::string_view> itself;     ///< the same setting as it shows elsewhere: nobody could hold that
  std::vector<std::string_view> held;       ///< ids of core::HeldCondition that are equal, though much comes along
  std::vector<std::string_view> steps;      ///< for a person, in order
  std::vector<std::string_view> cautions;   ///< to be read before the first step
  std::string_view measures;                ///< the reading that proves it: "read_GBps"; empty: none does
  ExpectedStep expects = ExpectedStep::Unknown;
  double tolerance = 0.1;         ///< relative, of the expected step
  bool bounds_gain = false;       ///< no workload can gain more than the resource itself did
  std::vector<KindWrite> writes;  ///< where a running Linux can set it
};

/// All kinds, in the order in which they are offered; "other" last.
[[nodiscard]] std::span<const VariableKind> variableKinds();
/// Nothing for an id that is not known.
[[nodiscard]] const VariableKind* findVariableKind(std::string_view id);

/// Is it an item of the firmware's menu, which a person has to find there?
[[nodiscard]] bool isSetInFirmwareMenu(const VariableKind& kind);

/// Does it take a restart or a person's hands, whatever a program is started with? False where nobody knows.
[[nodiscard]] bool needsHands(const VariableKind& kind);

/// What a flip of a kind usually takes, in minutes: a setting that a running system takes is a matter of seconds, one
/// of the firmware needs a restart, a part somebody's hands.
[[nodiscard]] double usualFlipMinutes(const VariableKind& kind);

/// The probe's command that measures a kind; empty where measuring proves nothing. `device` may be empty.
[[nodiscard]] std::vector<std::string> suggestedMeasureCommand(const VariableKind& kind, const std::string& device);

/// The probe's command that tests a level for errors; empty where the kind calls for none.
[[nodiscard]] std::vector<std::string> suggestedStabilityCommand(const VariableKind& kind);

/// Puts a path's addresses into a pattern's places: one pattern for each address.
[[nodiscard]] std::vector<std::string> placedPatterns(std::string_view pattern, const std::string& device,
                                                      const DevicePath& path);

}  // namespace core
