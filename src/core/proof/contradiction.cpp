#include "core/proof/contradiction.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/machine/comparison.h"
#include "core/machine/device_path.h"
#include "core/machine/fact.h"
#include "core/machine/variable_kind.h"
#include "core/proof/proof.h"
#include "core/record/performed_flips.h"
#include "core/study/asked_contrasts.h"
#include "core/study/expected_reading.h"

namespace core {
namespace {

const Capture* startOf(std::int64_t visit_id, std::span<const VisitCapture> captures) {
  for (const VisitCapture& one : captures)
    if (one.visit_id == visit_id && one.moment == CaptureMoment::Start) return &one.capture;
  return nullptr;
}

std::string deviceOf(const Variable& variable, const Capture& capture) {
  return variable.device.empty() ? likelyGraphicsDevice(capture) : variable.device;
}

std::optional<ExpectedReading> expectedAt(const Variable& variable, const Level& level) {
  return level.reads ? level.reads : proposedReading(variable.kind, level.name);
}

class Contradiction {
 public:
  Contradiction(const Study& study, const Record& record, const Visit& visit)
      : study_(study), record_(record), visit_(visit), start_(startOf(visit.id, record.captures)) {}

  [[nodiscard]] std::optional<std::string> sentence() const {
    if (study_.is_null || start_ == nullptr || isSettledByAPerson()) return std::nullopt;
    const auto read = readOtherwise(study_, visit_.configuration, *start_);
    const auto missed = missedFlip();
    if (read && missed) return *read + ", and " + *missed;
    if (read) return *read + (isSameBoot() ? ", and the boot is the same" : "");
    if (missed) return missed;
    return nothingMoved();
  }

 private:
  [[nodiscard]] bool isSettledByAPerson() const {
    return record_.measured_anyway.contains(visit_.id) ||
           std::any_of(record_.passes.begin(), record_.passes.end(),
                       [&](const Pass& pass) { return pass.visit_id == visit_.id; });
  }

  // The visit before it, at whatever level.
  [[nodiscard]] const Visit* before() const {
    const Visit* last = nullptr;
    for (const Visit& one : record_.visits) {
      if (one.id == visit_.id) break;
      last = &one;
    }
    return last;
  }

  [[nodiscard]] bool isSameBoot() const {
    const Visit* last = before();
    return last != nullptr && !visit_.boot_id.empty() && last->boot_id == visit_.boot_id && doesFlipRestart(study_);
  }

  [[nodiscard]] std::optional<std::string> missedFlip() const {
    for (const MissedFlip& flip : missedFlips(study_, record_.visits)) {
      if (flip.visit_id != visit_.id || flip.is_same_level) continue;
      const auto same = std::find_if(record_.visits.begin(), record_.visits.end(),
                                     [&](const Visit& one) { return one.id == flip.same_as_id; });
      return fmt::format("the machine has not restarted since visit {}",
                         same == record_.visits.end() ? 1 : same->planned);
    }
    return std::nullopt;
  }

  // Was what is meant to change read both times? What nobody can read contradicts nothing.
  [[nodiscard]] bool wasRead(const Comparison& comparison, const ComparisonOrder& order) const {
    std::vector<std::string> patterns;
    const DevicePath path = devicePath(*start_, order.device);
    for (const std::string& field : order.declared_fields)
      for (std::string& placed : placedPatterns(field, order.device, path)) patterns.push_back(std::move(placed));
    for (const auto* list : {&order.kind->must_change, &order.kind->any_of})
      for (const std::string_view pattern : *list)
        for (std::string& placed : placedPatterns(pattern, order.device, path)) patterns.push_back(std::move(placed));
    return std::any_of(comparison.unchanged.begin(), comparison.unchanged.end(), [&](const std::string& field) {
      return std::any_of(patterns.begin(), patterns.end(),
                         [&](const std::string& pattern) { return matchesPattern(pattern, field); });
    });
  }

  // Where no name says what must be read: what is meant to change reads as it did at the other level.
  [[nodiscard]] std::optional<std::string> nothingMoved() const {
    const Visit* last = before();
    const Capture* then = last ? startOf(last->id, record_.captures) : nullptr;
    if (then == nullptr) return std::nullopt;
    for (const std::size_t one : movedBetween(study_, last->configuration, visit_.configuration)) {
      const Variable& variable = study_.variables[one];
      const VariableKind* kind = findVariableKind(variable.kind);
      const auto expected = expectedAt(variable, variable.levels[study_.levelsAt(visit_.configuration)[one]]);
      const bool reads_as_asked = expected && readAtLevel(*expected, *start_, deviceOf(variable, *start_)).answer ==
                                                  ReadAtLevel::Answer::Agrees;
      if (!kind || variable.is_group || reads_as_asked) continue;
      ComparisonOrder order;
      order.kind = kind;
      order.device = deviceOf(variable, *start_);
      order.declared_fields = variable.fields;
      const Comparison comparison = compareCaptures(*then, *start_, order);
      if (comparison.moved != Moved::No || !wasRead(comparison, order)) continue;
      return fmt::format("{} was asked, and the {} reads as in visit {}, at {}", study_.nameOf(visit_.configuration),
                         kind->noun, last->planned, study_.nameOf(last->configuration));
    }
    return std::nullopt;
  }

  const Study& study_;
  const Record& record_;
  const Visit& visit_;
  const Capture* start_;
};

}  // namespace

std::optional<std::string> contradictionOf(const Study& study, const Record& record, const Visit& visit) {
  return Contradiction(study, record, visit).sentence();
}

std::optional<std::string> readOtherwise(const Study& study, ConfigurationId configuration, const Capture& capture) {
  const std::vector<std::size_t> levels = study.levelsAt(configuration);
  for (std::size_t i = 0; i < study.variables.size(); ++i) {
    const Variable& variable = study.variables[i];
    const Level& level = variable.levels[levels[i]];
    const auto expected = expectedAt(variable, level);
    if (!expected) continue;
    const ReadAtLevel read = readAtLevel(*expected, capture, deviceOf(variable, capture));
    if (read.answer != ReadAtLevel::Answer::Disagrees) continue;
    return fmt::format("{} was asked, {} is read", level.name, read.shown);
  }
  return std::nullopt;
}

bool readsAs(const Study& study, ConfigurationId configuration, const Capture& capture) {
  const std::vector<std::size_t> levels = study.levelsAt(configuration);
  for (std::size_t i = 0; i < study.variables.size(); ++i) {
    const Variable& variable = study.variables[i];
    const auto expected = expectedAt(variable, variable.levels[levels[i]]);
    if (!expected || readAtLevel(*expected, capture, deviceOf(variable, capture)).answer != ReadAtLevel::Answer::Agrees)
      return false;
  }
  return true;
}

}  // namespace core
