#include <algorithm>
#include <filesystem>

#include "bench/capture.h"
#include "bench/local_bench.h"
#include "cli/commands.h"
#include "cli/options.h"
#include "core/machine/device_path.h"
#include "core/machine/held_conditions.h"
#include "core/machine/variable_kind.h"
#include "core/study/schedule.h"
#include "store/files/regular_file.h"
#include "store/json/study_json.h"
#include "store/study/study_file.h"

namespace cli {

// A fact that nothing here is called by would be held, or would prove, nothing: said at once, with what is near.
static void nameUnknownFacts(const core::Study& study, const std::string& study_path, std::ostream& out) {
  std::vector<std::string> named = study.held;
  for (const core::Variable& one : study.variables) named.insert(named.end(), one.fields.begin(), one.fields.end());
  if (named.empty() || !core::isBenchHere(study)) return;
  const std::string root =
      study.machine.empty() ? "" : (std::filesystem::path(study_path).parent_path() / study.machine).string();
  bench::LocalBench machine(root);
  const core::Capture capture = bench::captureBench(machine);
  const std::string device =
      study.variable().device.empty() ? core::likelyGraphicsDevice(capture) : study.variable().device;
  std::vector<std::string> known;
  for (const core::Fact& fact : capture.facts) known.push_back(fact.name);
  for (const std::string& fact : named) {
    if (core::findHeldCondition(fact)) continue;
    const auto placed = core::placedPatterns(fact, device, core::devicePath(capture, device));
    const bool is_known = std::any_of(known.begin(), known.end(), [&](const std::string& name) {
      return std::any_of(placed.begin(), placed.end(),
                         [&](const std::string& pattern) { return core::matchesPattern(pattern, name); });
    });
    if (is_known) continue;
    const std::string near = nearestName(fact, known);
    out << "Caution: no fact of this bench is called '" << fact << "'"
        << (near.empty() ? std::string() : "; did you mean '" + near + "'?") << "\n";
  }
}

core::Status newCommand(const std::string& study_path, const std::string& design_path, std::ostream& out) {
  constexpr std::uintmax_t kLargest = 16 << 20;
  const auto text = store::contentsOf(design_path, kLargest);
  if (!text) return text.error();
  const auto study = store::newStudyFromJson(*text, design_path);
  if (!study) return study.error();
  if (const auto problems = core::problemsOf(*study); !problems.empty()) {
    core::Error first = problems.front();
    first.where = design_path + ", " + first.where;
    return first;
  }
  const auto made = store::StudyFile::create(study_path, *study);
  if (!made) return made.error();
  nameUnknownFacts(*study, study_path, out);
  out << "Made " << study_path << ": " << core::scheduleOf(*study).size() << " passes, warm-ups included.\n";
  return core::Done{};
}

}  // namespace cli
