#include "core/judgement/bench_doubts.h"

#include <algorithm>
#include <array>
#include <cctype>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/machine/difference_sentences.h"
#include "core/machine/fact_title.h"
#include "core/record/level_measurement.h"
#include "core/values/median.h"

namespace core {
namespace {

std::string ofVisit(const VisitProof& visit) { return "visit " + std::to_string(visit.visit_id); }

class BenchDoubts {
 public:
  BenchDoubts(const Study& study, const Record& record, const BenchProof& proof)
      : study_(study), record_(record), proof_(proof) {}

  std::vector<Doubt> take() {
    addAll();
    return doubts_.take();
  }

 private:
  void addUnproved() {
    const Comparison& levels = *proof_.levels;
    const std::string between = fmt::format("between {} and {}", study_.nameOf(ConfigurationId::Baseline),
                                            study_.nameOf(ConfigurationId::Changed));
    if (proof_.verdict == ProofVerdict::DidNotMove)
      doubts_.add(
          doubt::kDidNotMove, fmt::format("The {} did not move {}: {}", study_.variable().name, between, proof_.reason),
          "Set the level again and see that it takes hold; one that cannot be reached is a result, to be recorded");
    if (proof_.verdict == ProofVerdict::MovedElsewhere)
      doubts_.add(doubt::kMovedElsewhere,
                  fmt::format("The {} moved elsewhere, not where it was declared, {}: {}", study_.variable().name,
                              between, proof_.reason),
                  "Set the slot or device under test, or name the right one in a new question");
    if (proof_.verdict == ProofVerdict::CannotTell)
      doubts_.add(levels.moved == Moved::Yes ? doubt::kMeasuredOtherwise : doubt::kNotProved,
                  fmt::format("That the {} moved is not proved: {}", study_.variable().name, proof_.reason),
                  levels.moved == Moved::Yes
                      ? "Find the bottleneck, or measure again with nothing else running"
                      : "Make the facts readable, or accept it, and say how you know that it moved");
    if (const MeasuredStep* step = proof_.decidingStep(); step && step->agreement == Agreement::TooNoisy)
      doubts_.add(
          doubt::kMeasuredTooNoisy,
          fmt::format("The measurement cannot show that the {} moved: {}", study_.variable().name, step->sentence()),
          "Measure again with nothing else running");
    if (!proof_.other_neck.empty())
      doubts_.add(doubt::kNarrowerElsewhere,
                  fmt::format("The {} is not the narrowest hop at either level: {} is, so no effect is to be "
                              "expected",
                              study_.variable().name, proof_.other_neck),
                  "Use a slot nearer to the processor, or ask about that hop");
    if (!levels.must_not.empty())
      doubts_.add(doubt::kAlsoChanged,
                  fmt::format("Between the levels also changed: {}", joinedDifferences(levels.must_not)),
                  "Set it right and repeat, or accept it with a reason");
    for (const Difference& held : levels.held)
      doubts_.add(doubt::kHeld, {held.field},
                  fmt::format("Must be equal at both levels, but: {}", differenceSentences({held}).front()),
                  "Set it equal and repeat, or accept it with the reason why it may differ");
    std::vector<Difference> could_be_held = levels.comes_along;
    std::erase_if(could_be_held, [](const Difference& one) { return one.is_setting_itself; });
    if (study_.school == School::WithHeadroom && !could_be_held.empty())
      doubts_.add(doubt::kCameAlong,
                  fmt::format("With headroom only the {} is to differ, and this came along: {}", study_.variable().name,
                              joinedDifferences(could_be_held)),
                  "Hold it, or ask the question as delivered");
    if (!levels.unread.empty())
      doubts_.add(doubt::kUnread,
                  levels.unread.size() == 1
                      ? fmt::format("{} could not be read, so nobody knows whether it is equal",
                                    factTitle(levels.unread.front().field))
                      : fmt::format("{} facts could not be read, so nobody knows that they are equal: {} and others",
                                    levels.unread.size(), factTitle(levels.unread.front().field)),
                  "Run sudo iron-lever-root-facts once in each boot: it reads what needs root");
  }

  // In a null study nothing is to move at all.
  void addMovedInNull() {
    if (!proof_.levels || proof_.levels->must_not.empty()) return;
    doubts_.add(
        doubt::kAlsoChanged,
        fmt::format("In a null study nothing may change, and this did: {}", joinedDifferences(proof_.levels->must_not)),
        "Set it right and repeat: what moved would pass for noise");
  }

  // Is each level what it is called, and was each flip performed?
  void addNameDoubts() {
    if (proof_.are_levels_swapped)
      doubts_.add(doubt::kLevelsSwapped,
                  fmt::format("The levels are the other way round: at {} the bench was what {} is called, and the "
                              "reverse",
                              study_.nameOf(ConfigurationId::Baseline), study_.nameOf(ConfigurationId::Changed)),
                  "Ask it again with the names exchanged; the sign of every result here is turned around");
    if (!proof_.names_disagree.empty())
      doubts_.add(doubt::kNamesDisagree, fmt::format("Neither level is what it is called: {}", proof_.names_disagree),
                  "Name the levels by what they are; a memory clock in MHz is half of the rate in MT/s");
    for (const VisitProof& visit : proof_.visits)
      if (!visit.not_its_name.empty())
        doubts_.add(doubt::kLevelNotReached, {ofVisit(visit)},
                    fmt::format("Visit {} did not reach its level: {}", visit.planned, visit.not_its_name),
                    "Its passes are left out; set the level again and repeat, or accept it with a reason");
  }

  void addMissedFlips() {
    const auto planned = [&](std::int64_t id) {
      const auto visit =
          std::find_if(record_.visits.begin(), record_.visits.end(), [&](const Visit& one) { return one.id == id; });
      return visit == record_.visits.end() ? 0 : visit->planned;
    };
    for (const MissedFlip& flip : proof_.missed_flips) {
      const std::string since =
          fmt::format("The flip to visit {} was not performed: the machine has not restarted since visit {}",
                      planned(flip.visit_id), planned(flip.same_as_id));
      Doubt& added =
          doubts_.add(doubt::kFlipNotPerformed, {fmt::format("visit {}", flip.visit_id)},
                      since + (flip.is_same_level ? ". The two count as one visit" : ", so its level cannot be set"),
                      flip.is_same_level ? "Restart and set the level again before each visit, also at the same level"
                                         : "Its passes are left out; restart, set the level and repeat");
      if (!flip.is_same_level) added.rank = DoubtRank::Stop;
    }
  }

  // Larger pages spare the processor look-ups: a probe that got more of them at one level reads faster there.
  void addPageSizes() {
    std::array<std::vector<double>, 2> sizes;
    for (const Visit& visit : record_.visits)
      if (const auto* measured = measurementOf(visit.id, CaptureMoment::Start, record_.measurements))
        if (const Measurements* size = measured->find(kPageSize))
          sizes[placeOf(visit.configuration)].push_back(size->median());
    if (sizes[0].empty() || sizes[1].empty()) return;
    const double ratio = medianOf(sizes[1]) / medianOf(sizes[0]);
    constexpr double kAlike = 1.25;
    if (ratio < kAlike && ratio > 1 / kAlike) return;
    doubts_.add(
        doubt::kPageSize,
        fmt::format("The memory probe's own memory lay on pages of {:.0f} KiB at {} and of {:.0f} KiB at {}: its "
                    "readings compare page sizes too",
                    medianOf(sizes[0]), study_.nameOf(ConfigurationId::Baseline), medianOf(sizes[1]),
                    study_.nameOf(ConfigurationId::Changed)),
        "Measure with --pages base, or restart before each visit so that large pages can be had");
  }

  [[nodiscard]] bool hasVisitsAtBothLevels() const {
    const auto is_at = [&](ConfigurationId configuration) {
      return std::any_of(record_.visits.begin(), record_.visits.end(),
                         [&](const Visit& one) { return one.configuration == configuration; });
    };
    return is_at(ConfigurationId::Baseline) && is_at(ConfigurationId::Changed);
  }

  void addAll() {
    if (study_.is_null)
      addMovedInNull();
    else if (proof_.is_captured && proof_.is_declared)
      addUnproved();
    else if (proof_.is_declared && hasVisitsAtBothLevels())
      doubts_.add(doubt::kNotCaptured,
                  fmt::format("Nothing proves that the {} moved: the bench was not captured at both levels, so it "
                              "rests on your word",
                              study_.variable().name),
                  "Run the passes on the bench itself, or keep what shows the levels beside the results");
    else if (!proof_.is_declared)
      doubts_.add(doubt::kKindNotDeclared,
                  fmt::format("No kind of variable is declared: that the {} really moved rests on your word",
                              study_.variable().name),
                  "Choose the kind in the question of the next study");
    addNameDoubts();
    addMissedFlips();
    addPageSizes();
    if (proof_.is_virtual)
      doubts_.add(doubt::kVirtualMachine,
                  "The bench is a virtual machine: its links, memory and firmware are not the hardware's",
                  "Measure on the hardware itself");
    for (const VisitProof& visit : proof_.visits) addOfVisit(visit);
  }

  void addOfVisit(const VisitProof& visit) {
    if (!visit.rendered_elsewhere.empty())
      doubts_.add(
          doubt::kOtherDevice, {ofVisit(visit)},
          fmt::format("In visit {} the other graphics device rendered: {}", visit.planned, visit.rendered_elsewhere),
          "Make the workload use the device under test, or name the right device in the question");
    if (!visit.not_held.empty())
      doubts_.add(doubt::kNotHeld, {ofVisit(visit)},
                  fmt::format("Visit {} changed while it ran: between its start and its end {}", visit.planned,
                              joinedDifferences(visit.not_held)),
                  "Look for what changed it, and repeat the visit");
    if (!visit.errors.empty())
      doubts_.add(doubt::kErrors, {ofVisit(visit)},
                  fmt::format("In visit {} the machine counted {}", visit.planned, visit.errors),
                  "Errors that are corrected cost time and come before worse: lower the level, reseat the part");
    if (!visit.sagged.empty())
      doubts_.add(doubt::kSagged, {ofVisit(visit)},
                  fmt::format("Visit {} sagged under load: {}", visit.planned, visit.sagged),
                  "Look for heat, power limits and other programs, and repeat the visit");
    if (!visit.too_much.empty())
      doubts_.add(doubt::kTooMuch, {ofVisit(visit)}, fmt::format("Visit {}: {}", visit.planned, visit.too_much),
                  "The measurement is wrong, or what was read is: look at both");
    if (!visit.unmeasured.empty())
      doubts_.add(doubt::kUnmeasured, {ofVisit(visit)},
                  fmt::format("Visit {} was not measured: {}", visit.planned, visit.unmeasured),
                  "What was read stands alone");
  }

  const Study& study_;
  const Record& record_;
  const BenchProof& proof_;
  DoubtList doubts_;
};

}  // namespace

std::string joinedDifferences(const std::vector<Difference>& differences) {
  constexpr std::size_t kMost = 3;  // the rest is on the bench page
  const std::vector<std::string> sentences = differenceSentences(differences);
  std::string text;
  for (std::size_t i = 0; i < std::min(kMost, sentences.size()); ++i) text += (i > 0 ? "; " : "") + sentences[i];
  if (sentences.size() > kMost) text += fmt::format("; and {} more", sentences.size() - kMost);
  return text;
}

std::vector<Doubt> benchDoubts(const Study& study, const Record& record, const BenchProof& proof) {
  return BenchDoubts(study, record, proof).take();
}

}  // namespace core
