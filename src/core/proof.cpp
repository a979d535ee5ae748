#include "core/proof.h"

#include <algorithm>
#include <map>

#include <fmt/format.h>

#include "core/device_path.h"
#include "core/links.h"

namespace core {
namespace {

/// The captures of one visit.
struct VisitRecord {
  const Visit* visit = nullptr;
  const Capture* start = nullptr;
  const Capture* loaded = nullptr;
  const Capture* end = nullptr;
  /// A link is to be trusted under load only; everything else is the same there.
  [[nodiscard]] const Capture* best() const { return loaded ? loaded : start ? start : end; }
};

std::vector<VisitRecord> recordsOf(std::span<const Visit> visits, std::span<const VisitCapture> captures) {
  std::map<std::int64_t, VisitRecord> by_visit;
  for (const Visit& visit : visits) by_visit[visit.id].visit = &visit;
  for (const VisitCapture& one : captures) {
    const auto found = by_visit.find(one.visit_id);
    if (found == by_visit.end()) continue;
    switch (one.moment) {
      case CaptureMoment::Start: found->second.start = &one.capture; break;
      case CaptureMoment::UnderLoad: found->second.loaded = &one.capture; break;
      case CaptureMoment::End: found->second.end = &one.capture; break;
    }
  }
  std::vector<VisitRecord> records;
  for (const auto& [id, record] : by_visit)
    if (record.best()) records.push_back(record);
  return records;
}

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
    const VariableKind* declared = findVariableKind(study.is_null ? "other" : study.kind);
    const std::string device =
        study.device.empty() && !records_.empty() ? likelyGraphicsDevice(*records_.front().best()) : study.device;
    proof_.is_declared = declared != nullptr;
    declared_ = {declared ? declared : findVariableKind("other"), device, study.fields, "the baseline",
                 "the changed level"};
    // Between visits at one level nothing may move, so no field is declared.
    alike_ = {findVariableKind("other"), device, {}, "the one visit", "the other"};
  }

  BenchProof run() {
    const VisitRecord* baseline = referenceAt(Side::Baseline, nullptr);
    const VisitRecord* changed = referenceAt(Side::Changed, baseline);
    for (const VisitRecord& record : records_) {
      const VisitRecord* reference = record.visit->side == Side::Baseline ? baseline : changed;
      VisitProof visit{record.visit->id, record.visit->planned, record.visit->side, {}, {}, {}, {}, {}, {}};
      if (reference && reference != &record)
        visit.not_as_its_level = compareCaptures(*reference->best(), *record.best(), alike_).must_not;
      if (record.start && record.end) visit.not_held = notHeld(*record.start, *record.end);
      visit.rendered_elsewhere = renderedElsewhereIn(record);
      addMeasured(visit);
      addTooMuch(visit, *record.best());
      proof_.is_virtual = proof_.is_virtual || record.best()->is_virtual;
      proof_.visits.push_back(std::move(visit));
    }
    if (baseline && changed) {
      proof_.is_captured = true;
      proof_.levels = compareCaptures(*baseline->best(), *changed->best(), declared_);
      measure(*baseline, *changed);
      findOtherNeck(*baseline->best(), *changed->best());
      judge();
    }
    proof_.baseline_visit = baseline ? baseline->visit->id : 0;
    proof_.changed_visit = changed ? changed->visit->id : 0;
    return std::move(proof_);
  }

 private:
  // A level is judged by the visit at which the least came along by accident; the baseline by its first.
  const VisitRecord* referenceAt(Side side, const VisitRecord* baseline) const {
    const VisitRecord* best = nullptr;
    std::size_t fewest = 0;
    for (const VisitRecord& record : records_) {
      if (record.visit->side != side) continue;
      const std::size_t accidents =
          baseline ? compareCaptures(*baseline->best(), *record.best(), declared_).must_not.size() : 0;
      if (!best || accidents < fewest) {
        best = &record;
        fewest = accidents;
      }
    }
    return best;
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
    const std::string device = study_.device.empty() ? likelyGraphicsDevice(*record.best()) : study_.device;
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
    const Measurements* reading = start ? start->find(declared_.kind->measures) : nullptr;
    const auto usable = usableRate(*declared_.kind, declared_.device, capture);
    if (!reading || !usable || reading->median() <= usable->GBps) return;
    const std::string name(declared_.kind->measures);
    visit.too_much = fmt::format("measured {} is {}, and no more than {:.1f} GB/s can be ({})", readingTitle(name),
                                 readingText(name, *reading), usable->GBps, usable->of);
  }

  // A link that moved on a way with a narrower neck elsewhere can show nothing.
  void findOtherNeck(const Capture& baseline, const Capture& changed) {
    if (!declared_.kind->is_link) return;
    const DevicePath from = devicePath(baseline, declared_.device);
    const DevicePath to = devicePath(changed, declared_.device);
    if (!from.narrowest || from.narrowest != to.narrowest || from.narrowest == from.slot || !from.slot) return;
    const Hop& neck = from.hops[*from.narrowest];
    if (neck.isVirtual() || neck.now.lanes == 0 || !(neck.now == to.hops[*to.narrowest].now)) return;
    proof_.other_neck = fmt::format("{} to {} ({})", neck.down, neck.up, linkText(neck.now));
  }

  void measure(const VisitRecord& baseline, const VisitRecord& changed) {
    const VisitMeasurement* from = measurementAt(baseline.visit->id, CaptureMoment::Start);
    const VisitMeasurement* to = measurementAt(changed.visit->id, CaptureMoment::Start);
    if (from && to)
      proof_.measured = measuredStep(*declared_.kind, declared_.device, *baseline.best(), *changed.best(), *from, *to);
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
    } else if (proof_.measured && proof_.measured->agreement == Agreement::Disagrees) {
      proof_.verdict = ProofVerdict::CannotTell;
      proof_.reason = fmt::format("what was read moved, but {}: another bottleneck, or the setting did not take",
                                  proof_.measured->sentence());
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

std::string unlikeItsLevelId(const VisitProof& visit) {
  return "unlike_its_level/visit " + std::to_string(visit.visit_id);
}

std::vector<std::int64_t> retiredVisits(const BenchProof& proof, std::span<const Acceptance> acceptances) {
  std::vector<std::int64_t> retired;
  for (const VisitProof& visit : proof.visits) {
    const bool is_accepted = std::any_of(acceptances.begin(), acceptances.end(),
                                         [&](const auto& one) { return one.first == unlikeItsLevelId(visit); });
    if (!visit.not_as_its_level.empty() && !is_accepted) retired.push_back(visit.visit_id);
  }
  return retired;
}

}  // namespace core
