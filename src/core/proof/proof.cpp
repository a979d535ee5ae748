#include "core/proof/proof.h"

#include <algorithm>
#include <array>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/machine/device_path.h"
#include "core/machine/links.h"
#include "core/machine/memory_layout.h"
#include "core/proof/visit_records.h"
#include "core/study/expected_reading.h"

namespace core {
namespace {

// Where there is more than one graphics device the wrong one may do the work. A device that does it is busy most of the
// time, one that does not hardly ever.
std::string renderedElsewhere(const std::vector<DeviceLoad>& loads, const std::string& device) {
  constexpr double kWorksPercent = 50;
  constexpr double kIdlesPercent = 10;
  const auto own =
      std::find_if(loads.begin(), loads.end(), [&](const DeviceLoad& one) { return one.device == device; });
  if (own == loads.end() || own->busy_percent >= kIdlesPercent) return "";
  for (const DeviceLoad& other : loads)
    if (other.busy_percent >= kWorksPercent)
      return fmt::format("{} was {:g} % busy, {} {:g} %", other.device, other.busy_percent, device, own->busy_percent);
  return "";
}

// A pattern's places stand for any address: so fits the same setting of another slot or device.
std::string anywhere(std::string_view pattern) {
  const auto open = pattern.find('{');
  const auto close = pattern.find('}');
  if (open == std::string_view::npos || close == std::string_view::npos) return std::string(pattern);
  return fmt::format("{}*{}", pattern.substr(0, open), pattern.substr(close + 1));
}

// Did the kind's own setting move, but of another slot or device than the declared one?
bool hasMovedElsewhere(const VariableKind& kind, const std::vector<Difference>& must_not) {
  std::vector<std::string_view> patterns = kind.must_change;
  patterns.insert(patterns.end(), kind.any_of.begin(), kind.any_of.end());
  return std::any_of(must_not.begin(), must_not.end(), [&](const Difference& difference) {
    return std::any_of(patterns.begin(), patterns.end(), [&](std::string_view pattern) {
      return pattern.find('{') != std::string_view::npos && matchesPattern(anywhere(pattern), difference.field);
    });
  });
}

class Proving {
 public:
  Proving(const Study& study, const Record& record)
      : study_(study),
        records_(recordsOf(record.visits, record.captures)),
        measurements_(record.measurements),
        passes_(record.passes) {
    const VariableKind* declared = findVariableKind(study.is_null ? "other" : study.variable().kind);
    const std::string device = study.variable().device.empty() && !records_.empty()
                                   ? likelyGraphicsDevice(*records_.front().best())
                                   : study.variable().device;
    proof_.is_declared = declared != nullptr;
    declared_ = comparisonOrderOf(study, device, "the baseline", "the changed level");
    expected_ = expectedReadings(study);
    proof_.missed_flips = missedFlips(study, record.visits);
    // Between visits at one level nothing may move, so no field is declared.
    alike_ = {findVariableKind("other"), device, {}, "the one visit", "the other"};
  }

  BenchProof run() {
    const VisitRecord* baseline = referenceAt(ConfigurationId::Baseline, nullptr);
    const VisitRecord* changed = referenceAt(ConfigurationId::Changed, baseline);
    for (const VisitRecord& record : records_) {
      const VisitRecord* reference = record.visit->configuration == ConfigurationId::Baseline ? baseline : changed;
      VisitProof visit;
      visit.visit_id = record.visit->id;
      visit.planned = record.visit->planned;
      visit.configuration = record.visit->configuration;
      if (reference && reference != &record)
        visit.not_as_its_level = compareCaptures(*reference->best(), *record.best(), alike_).must_not;
      if (record.start && record.end) visit.not_held = notHeld(*record.start, *record.end);
      if (record.start && record.end) visit.errors = errorsBetween(*record.start, *record.end);
      visit.rendered_elsewhere = renderedElsewhereIn(record);
      addMeasured(visit);
      addTooMuch(visit, *record.best());
      proof_.is_virtual = proof_.is_virtual || record.best()->is_virtual;
      proof_.visits.push_back(std::move(visit));
    }
    readNames();
    remarkOnMemory(baseline, changed);
    if (baseline && changed) {
      proof_.is_captured = true;
      proof_.levels = compareCaptures(*baseline->best(), *changed->best(), declared_);
      proof_.are_levels_swapped =
          proof_.are_levels_swapped || areNamesSwapped(study_, *baseline->best(), *changed->best(), declared_.device);
      measure(*baseline, *changed);
      findOtherNeck(*baseline->best(), *changed->best());
      judge();
    }
    proof_.baseline_visit = baseline ? baseline->visit->id : 0;
    proof_.changed_visit = changed ? changed->visit->id : 0;
    return std::move(proof_);
  }

 private:
  // A level is judged by the visit that is what it is called, and at which the least came along by accident.
  const VisitRecord* referenceAt(ConfigurationId configuration, const VisitRecord* baseline) const {
    const VisitRecord* best = nullptr;
    std::size_t fewest = 0;
    for (const VisitRecord& record : records_) {
      if (record.visit->configuration != configuration) continue;
      constexpr std::size_t kAnotherLevel = 1'000'000;
      const std::size_t accidents =
          (baseline ? compareCaptures(*baseline->best(), *record.best(), declared_).must_not.size()
                    : differencesFromFellows(record)) +
          (answerAt(record, configuration).answer == ReadAtLevel::Answer::Disagrees || isFlipMissed(record)
               ? kAnotherLevel
               : 0);
      if (!best || accidents < fewest) {
        best = &record;
        fewest = accidents;
      }
    }
    return best;
  }

  // The baseline has nothing to be held against but the other visits at it: the odd one among them is not it.
  [[nodiscard]] std::size_t differencesFromFellows(const VisitRecord& record) const {
    std::size_t differences = 0;
    for (const VisitRecord& other : records_)
      if (&other != &record && other.visit->configuration == record.visit->configuration)
        differences += compareCaptures(*other.best(), *record.best(), alike_).must_not.size();
    return differences;
  }

  [[nodiscard]] bool isFlipMissed(const VisitRecord& record) const {
    return std::any_of(proof_.missed_flips.begin(), proof_.missed_flips.end(), [&](const MissedFlip& flip) {
      return flip.visit_id == record.visit->id && !flip.is_same_level;
    });
  }

  [[nodiscard]] ReadAtLevel answerAt(const VisitRecord& record, ConfigurationId named) const {
    const auto& expected = expected_[static_cast<std::size_t>(named)];
    return expected ? readAtLevel(*expected, *record.best(), declared_.device) : ReadAtLevel{};
  }

  // Is each level what it is called? All of them the other way round is one mistake, and so are two wrong names; a
  // single visit that is not what its level is called did not reach it.
  void readNames() {
    using Answer = ReadAtLevel::Answer;
    std::array<int, 2> right{};
    std::array<int, 2> wrong{};
    std::array<int, 2> the_other{};
    std::array<std::string, 2> shown;
    for (const VisitRecord& record : records_) {
      const auto configuration = static_cast<std::size_t>(record.visit->configuration);
      const ReadAtLevel own = answerAt(record, record.visit->configuration);
      if (own.answer == Answer::NotRead) continue;
      ++(own.answer == Answer::Agrees ? right : wrong)[configuration];
      shown[configuration] = own.shown;
      const ConfigurationId other = record.visit->configuration == ConfigurationId::Baseline
                                        ? ConfigurationId::Changed
                                        : ConfigurationId::Baseline;
      the_other[configuration] += answerAt(record, other).answer == Answer::Agrees;
    }
    const bool is_none_right = right[0] + right[1] == 0 && wrong[0] > 0 && wrong[1] > 0;
    if (is_none_right && the_other == wrong) {
      proof_.are_levels_swapped = true;
    } else if (is_none_right) {
      std::vector<std::string> said;
      for (std::size_t configuration = 0; configuration < 2; ++configuration)
        said.push_back(fmt::format("{} must read {}, but {} was read", study_.variable().levels[configuration].name,
                                   expected_[configuration]->value, shown[configuration]));
      proof_.names_disagree = fmt::format("{}", fmt::join(said, "; "));
    } else {
      for (std::size_t i = 0; i < records_.size(); ++i) markVisit(proof_.visits[i], records_[i]);
    }
  }

  void markVisit(VisitProof& visit, const VisitRecord& record) const {
    const ReadAtLevel read = answerAt(record, visit.configuration);
    if (read.answer != ReadAtLevel::Answer::Disagrees) return;
    const auto configuration = static_cast<std::size_t>(visit.configuration);
    visit.not_its_name = fmt::format("{} must read {}, but {} was read", study_.variable().levels[configuration].name,
                                     expected_[configuration]->value, read.shown);
  }

  void remarkOnMemory(const VisitRecord* baseline, const VisitRecord* changed) {
    std::map<std::string, std::vector<std::string>> levels;  // by remark
    for (const VisitRecord* record : {baseline, changed}) {
      if (!record) continue;
      const MemoryRating rating = memoryRating(*record->best());
      for (const std::string& remark : rating.above)
        levels[remark].push_back(study_.nameOf(record->visit->configuration));
      // Which rate runs is the question itself where memory speed is the variable.
      if (study_.variable().kind != "memory_speed")
        for (const std::string& remark : rating.below)
          levels[remark].push_back(study_.nameOf(record->visit->configuration));
    }
    for (auto& [remark, at] : levels) proof_.memory_remarks.push_back({remark, std::move(at)});
  }

  // Counters only grow within one boot.
  [[nodiscard]] static std::string errorsBetween(const Capture& start, const Capture& end) {
    if (start.boot_id != end.boot_id) return "";
    double of_memory = 0;
    std::vector<std::string> said;
    for (const Fact& fact : end.facts) {
      const Fact* before = start.find(fact.name);
      if (fact.kind != FactKind::Evidence || !before) continue;
      const double more = errorCount(fact) - errorCount(*before);
      if (more <= 0) continue;
      if (fact.name.starts_with("memory/errors/"))
        of_memory += more;
      else if (fact.name.find("/aer_dev_") != std::string::npos)
        said.push_back(fmt::format("{:.0f} link errors at {}", more, fact.name.substr(4, fact.name.find('/', 4) - 4)));
    }
    if (of_memory > 0) said.insert(said.begin(), fmt::format("{:.0f} errors of memory, corrected or not", of_memory));
    return fmt::format("{}", fmt::join(said, ", "));
  }

  // "RxErr 3, TOTAL_ERR_COR 3" counts 3.
  [[nodiscard]] static double errorCount(const Fact& fact) {
    if (fact.number) return *fact.number;
    const auto total = fact.value.find("TOTAL_");
    const auto blank = total == std::string::npos ? total : fact.value.find(' ', total);
    double count = 0;
    for (std::size_t i = blank; blank != std::string::npos && ++i < fact.value.size();) {
      if (fact.value[i] < '0' || fact.value[i] > '9') break;
      count = 10 * count + (fact.value[i] - '0');
    }
    return count;
  }

  // Links sink while nothing runs, before the first pass as after the last: that is no change of the setting.
  std::vector<Difference> notHeld(const Capture& start, const Capture& end) const {
    std::vector<Difference> differences = compareCaptures(start, end, alike_).must_not;
    std::erase_if(differences, [](const Difference& d) {
      return d.field.ends_with("/current_link_speed") || d.field.ends_with("/current_link_width");
    });
    return differences;
  }

  [[nodiscard]] const VisitMeasurement* measurementAt(std::int64_t visit_id, CaptureMoment moment) const {
    return measurementOf(visit_id, moment, measurements_);
  }

  // Of any of the visit's passes.
  [[nodiscard]] std::string renderedElsewhereIn(const VisitRecord& record) const {
    const std::string device =
        study_.variable().device.empty() ? likelyGraphicsDevice(*record.best()) : study_.variable().device;
    for (const Pass& pass : passes_) {
      if (pass.visit_id != record.visit->id) continue;
      if (std::string elsewhere = renderedElsewhere(pass.loads, device); !elsewhere.empty()) return elsewhere;
    }
    return "";
  }

  void addMeasured(VisitProof& visit) const {
    const VisitMeasurement* start = measurementAt(visit.visit_id, CaptureMoment::Start);
    const VisitMeasurement* end = measurementAt(visit.visit_id, CaptureMoment::End);
    if (start && end) visit.sagged = saggedBy(*declared_.kind, *start, *end);
    if (start) visit.unmeasured = start->failure;
  }

  // Nothing yields more than its link or its modules can carry: then the measurement is wrong, or the reading.
  void addTooMuch(VisitProof& visit, const Capture& capture) const {
    const VisitMeasurement* start = measurementAt(visit.visit_id, CaptureMoment::Start);
    if (!start) return;
    for (const Reading& reading : start->readings) {
      const auto usable = usableRate(reading.name, *declared_.kind, declared_.device, capture);
      if (!usable || reading.measured.values.empty() || reading.measured.median() <= usable->GBps) continue;
      visit.too_much =
          fmt::format("measured {} is {}, more than the {:.1f} GB/s that are possible ({})", readingTitle(reading.name),
                      readingText(reading.name, reading.measured), usable->GBps, usable->of);
    }
  }

  // A link that moved on a way with a narrower neck elsewhere can show nothing.
  void findOtherNeck(const Capture& baseline, const Capture& changed) {
    if (!declared_.kind->is_link) return;
    const DevicePath from = devicePath(baseline, declared_.device);
    const DevicePath to = devicePath(changed, declared_.device);
    if (!from.narrowest || from.narrowest != to.narrowest || from.narrowest == from.slot || !from.slot) return;
    const Hop& neck = from.hops[*from.narrowest];
    if (!from.hasNeck() || neck.rateGBps() != to.hops[*to.narrowest].rateGBps()) return;
    proof_.other_neck = fmt::format("{} to {} ({})", neck.down, neck.up, neck.text());
  }

  void measure(const VisitRecord& baseline, const VisitRecord& changed) {
    const VisitMeasurement* from = measurementAt(baseline.visit->id, CaptureMoment::Start);
    const VisitMeasurement* to = measurementAt(changed.visit->id, CaptureMoment::Start);
    if (from && to)
      proof_.measured = measuredSteps(*declared_.kind, declared_.device, *baseline.best(), *changed.best(), *from, *to);
  }

  // What was read comes first; a measurement can speak against it, never replace it.
  void judge() {
    const Comparison& levels = *proof_.levels;
    proof_.reason = levels.reason;
    if (levels.moved == Moved::No) {
      const bool is_elsewhere = hasMovedElsewhere(*declared_.kind, levels.must_not);
      proof_.verdict = is_elsewhere ? ProofVerdict::MovedElsewhere : ProofVerdict::DidNotMove;
    } else if (levels.moved == Moved::Undetermined) {
      proof_.verdict = ProofVerdict::CannotTell;
    } else if (const MeasuredStep* step = proof_.decidingStep(); step && step->agreement == Agreement::Disagrees) {
      proof_.verdict = ProofVerdict::CannotTell;
      proof_.reason = fmt::format("what was read moved, but {}: another bottleneck, or the setting did not take effect",
                                  step->sentence());
    } else {
      proof_.verdict = ProofVerdict::MovedAsDeclared;
    }
  }

  const Study& study_;
  std::vector<VisitRecord> records_;
  std::span<const VisitMeasurement> measurements_;
  std::span<const Pass> passes_;
  ComparisonOrder declared_;
  ComparisonOrder alike_;
  std::array<std::optional<ExpectedReading>, 2> expected_;
  BenchProof proof_;
};

}  // namespace

const char* proofVerdictName(ProofVerdict verdict) {
  switch (verdict) {
    case ProofVerdict::MovedAsDeclared: return "moved as declared";
    case ProofVerdict::DidNotMove: return "did not move";
    case ProofVerdict::MovedElsewhere: return "moved elsewhere";
    case ProofVerdict::CannotTell: return "cannot tell";
  }
  return "unknown";
}

BenchProof proveBench(const Study& study, const Record& record) { return Proving(study, record).run(); }

const Capture* bestCaptureOf(std::int64_t visit_id, std::span<const VisitCapture> captures) {
  VisitRecord record;
  for (const VisitCapture& one : captures) {
    if (one.visit_id != visit_id) continue;
    (one.moment == CaptureMoment::Start       ? record.start
     : one.moment == CaptureMoment::UnderLoad ? record.loaded
                                              : record.end) = &one.capture;
  }
  return record.best();
}

ComparisonOrder comparisonOrderOf(const Study& study, const std::string& device, const std::string& baseline_name,
                                  const std::string& changed_name) {
  const VariableKind* kind = findVariableKind(study.is_null ? "other" : study.variable().kind);
  return {kind ? kind : findVariableKind("other"),
          device,
          study.variable().fields,
          baseline_name,
          changed_name,
          study.held,
          study.released};
}

const MeasuredStep* BenchProof::decidingStep() const {
  const MeasuredStep* deciding = nullptr;
  for (const MeasuredStep& step : measured)
    if (step.expected &&
        (!deciding || (deciding->agreement != Agreement::Disagrees &&
                       (step.agreement == Agreement::Disagrees || step.agreement == Agreement::TooNoisy))))
      deciding = &step;
  return deciding;
}

std::string MemoryRemark::sentence(std::size_t levels_of_the_study) const {
  return levels.size() == levels_of_the_study ? what : fmt::format("At {}: {}", fmt::join(levels, ", "), what);
}

}  // namespace core
