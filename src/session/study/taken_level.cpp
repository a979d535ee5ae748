#include "session/study/taken_level.h"

#include <algorithm>
#include <filesystem>
#include <map>
#include <set>

#include <fmt/format.h>

#include "core/judgement/judgement.h"
#include "core/proof/contradiction.h"
#include "core/proof/step_proofs.h"
#include "core/record/case_passes.h"
#include "core/record/noise_key.h"
#include "core/record/pair_visits.h"
#include "session/cabinet/study_copy.h"
#include "session/user/file_lock.h"

namespace session {
namespace {

using core::ConfigurationId;
using core::Error;
using core::ErrorKind;

bool isSameCase(const core::Study& ours, std::size_t our_case, const core::Study& theirs, std::size_t their_case) {
  const auto names = [](const core::Case& one) {
    std::vector<std::string> list;
    for (const core::CaseResult& result : one.further) list.push_back(result.name);
    return list;
  };
  return core::noiseKeyOf(ours, our_case).measured == core::noiseKeyOf(theirs, their_case).measured &&
         names(ours.cases[our_case]) == names(theirs.cases[their_case]);
}

/// The earlier study: what of it counts, and which of its cases are ours.
class Earlier {
 public:
  Earlier(StudyCopy copy, store::Recorded recorded, std::string name)
      : copy_(std::move(copy)),
        recorded_(std::move(recorded)),
        name_(std::move(name)),
        schedule_(core::scheduleOf(study())) {
    const core::Record record = store::recordOf(recorded_);
    const core::Judgement judgement = core::judgementOf(study(), record);
    is_sealed_ = judgement.is_sealed;
    visits_ = core::visitsWithout(core::retiredVisits(study(), record, judgement.steps), recorded_.visits);
    counted_ = core::countedByCase(study(), schedule_, visits_, recorded_.passes);
  }

  [[nodiscard]] const core::Study& study() const { return copy_.file().study(); }
  [[nodiscard]] store::StudyFile& file() { return copy_.file(); }
  [[nodiscard]] const store::Recorded& recorded() const { return recorded_; }
  [[nodiscard]] const std::string& name() const { return name_; }
  [[nodiscard]] bool isSealed() const { return is_sealed_; }
  [[nodiscard]] const core::Slot& slotOf(const core::Pass& pass) const { return schedule_[pass.slot]; }

  [[nodiscard]] std::optional<std::size_t> caseLike(const core::Study& ours, std::size_t our_case) const {
    for (std::size_t i = 0; i < study().cases.size(); ++i)
      if (isSameCase(ours, our_case, study(), i)) return i;
    return std::nullopt;
  }
  // In order of recording, with where each was.
  [[nodiscard]] const std::vector<core::CountedPass>& counted(std::size_t case_index) const {
    return counted_[case_index];
  }

  // The visits at a level in which a pass of any case counts, in order.
  [[nodiscard]] std::vector<const core::Visit*> visitsAt(ConfigurationId configuration) const {
    std::map<std::int64_t, const core::Visit*> visits;
    for (const auto& of_case : counted_)
      for (const core::CountedPass& one : of_case)
        if (one.visit->configuration == configuration) visits[one.visit->id] = one.visit;
    std::vector<const core::Visit*> in_order;
    for (const auto& [id, visit] : visits) in_order.push_back(visit);
    return in_order;
  }

 private:
  StudyCopy copy_;
  store::Recorded recorded_;
  std::string name_;
  std::vector<core::Slot> schedule_;
  bool is_sealed_ = false;
  std::vector<core::Visit> visits_;                      // those that stand
  std::vector<std::vector<core::CountedPass>> counted_;  // look into visits and passes
};

core::Result<Earlier> readEarlier(const std::string& path) {
  auto copy = StudyCopy::of(path);
  if (!copy) return copy.error();
  auto recorded = copy->file().recorded();
  if (!recorded) {
    Error error = recorded.error();
    error.where = path;
    return error;
  }
  return Earlier(*std::move(copy), *std::move(recorded), std::filesystem::path(path).filename().string());
}

/// Takes one level over.
class Taking {
 public:
  Taking(OpenStudy& open, Earlier& earlier, ConfigurationId ours, ConfigurationId theirs)
      : open_(open), earlier_(earlier), ours_(ours), theirs_(theirs), visits_(earlier.visitsAt(theirs)) {}

  // Nothing is filed before everything is known to fit.
  core::Status check() {
    const core::Study& study = open_.study();
    for (std::size_t i = 0; i < study.cases.size(); ++i) {
      const auto like = earlier_.caseLike(study, i);
      if (!like)
        return Error{ErrorKind::Missing, fmt::format("{} does not run there as it does here", study.cases[i].title()),
                     earlier_.name(), "Same command, same result, same unit: or ask this question without that case"};
      cases_.push_back(*like);
    }
    if (visits_.empty())
      return Error{ErrorKind::Missing, "no pass of that level counts there", earlier_.name(), "Measure it here"};
    for (const core::Visit* visit : visits_)
      if (const core::Capture* read = core::bestCaptureOf(visit->id, earlier_.recorded().captures))
        if (const auto other = core::readOtherwise(study, ours_, *read))
          return Error{ErrorKind::NotAllowed, "it is another level: " + *other, earlier_.name(),
                       fmt::format("Name the level that {} is called there", study.nameOf(ours_))};
    return core::Done{};
  }

  core::Status file() {
    taken_.study = earlier_.name();
    taken_.identity = earlier_.file().identity();
    taken_.level = earlier_.study().nameOf(theirs_);
    taken_.shared = sharedLevels();
    std::size_t next = 0;
    for (const core::PlannedVisit& planned : core::visitsOf(open_.study()))
      if (planned.configuration == ours_ && next < visits_.size())
        if (auto filed = fileVisit(*visits_[next++], planned); !filed) return filed;
    if (auto skipped = skipTheRest(); !skipped) return skipped;
    return note(core::LevelTaken{ours_, taken_});
  }

  [[nodiscard]] const core::TakenLevel& taken() const { return taken_; }

 private:
  core::Status note(core::Act act) { return open_.file().addEvent({0, open_.now(), open_.person(), std::move(act)}); }

  core::Status fileVisit(const core::Visit& from, const core::PlannedVisit& to) {
    const auto visit =
        open_.file().addVisit({0, to.number, to.round, to.configuration, from.boot_id, from.started_ms, true});
    if (!visit) return visit.error();
    taken_.visits.push_back(static_cast<int>(visit->id));
    for (core::VisitCapture capture : earlier_.recorded().captures)
      if (capture.visit_id == from.id) {
        capture.visit_id = visit->id;
        if (auto filed = open_.file().addCapture(capture); !filed) return filed;
      }
    for (core::VisitMeasurement measured : earlier_.recorded().measurements)
      if (measured.visit_id == from.id) {
        measured.visit_id = visit->id;
        if (auto filed = open_.file().addMeasurement(measured); !filed) return filed;
      }
    for (std::size_t i = 0; i < cases_.size(); ++i)
      if (auto filed = filePasses(i, from, *visit); !filed) return filed;
    return core::Done{};
  }

  core::Status filePasses(std::size_t our_case, const core::Visit& from, const core::Visit& to) {
    std::vector<std::size_t> places;
    for (std::size_t i = 0; i < open_.schedule().size(); ++i)
      if (open_.schedule()[i].visit == to.planned && open_.schedule()[i].counts(our_case, ours_)) places.push_back(i);
    std::size_t next = 0;
    for (const core::CountedPass& one : earlier_.counted(cases_[our_case])) {
      if (one.visit->id != from.id || next == places.size()) continue;
      if (auto filed = filePass(*one.pass, places[next], to.id); !filed) return filed;
      filled_.insert(places[next++]);
    }
    return core::Done{};
  }

  core::Status filePass(core::Pass pass, std::size_t slot, std::int64_t visit_id) {
    const auto frames = earlier_.file().frames(pass.id);
    const auto samples = earlier_.file().samples(pass.id);
    const auto output = earlier_.file().output(pass.id);
    if (!frames) return frames.error();
    if (!samples) return samples.error();
    if (!output) return output.error();
    pass.origin = fmt::format("{} of {}", core::passName(earlier_.slotOf(pass)), earlier_.name());
    pass.visit_id = visit_id;
    pass.slot = slot;
    pass.attempt = 1;
    pass.output = output->output;
    pass.error_output = output->error_output;
    pass.companion_output = output->of_companion;
    const auto filed = open_.file().addPass(pass, *frames, *samples);
    return filed ? core::Status(core::Done{}) : core::Status(filed.error());
  }

  core::Status skipTheRest() {
    for (std::size_t i = 0; i < open_.schedule().size(); ++i)
      if (open_.schedule()[i].configuration == ours_ && !filled_.contains(i))
        if (auto noted = note(core::Skipped{i, "its level was taken from " + earlier_.name()}); !noted) return noted;
    return core::Done{};
  }

  // The other levels that have the same name in both.
  [[nodiscard]] std::vector<core::TakenLevel::Shared> sharedLevels() const {
    std::vector<core::TakenLevel::Shared> shared;
    const core::Study& study = open_.study();
    for (const ConfigurationId configuration : core::configurationsOf(study)) {
      const auto there = core::findConfiguration(earlier_.study(), study.nameOf(configuration));
      if (configuration == ours_ || !there) continue;
      for (std::size_t i = 0; i < cases_.size(); ++i) {
        std::vector<double> means;
        for (const core::VisitValues& visit :
             core::visitValues(earlier_.counted(cases_[i]), [](const core::Pass& pass) { return pass.value; }))
          if (visit.configuration == *there && !visit.values.empty()) means.push_back(core::meanOf(visit.values));
        if (!means.empty()) shared.push_back({study.nameOf(configuration), study.cases[i].title(), std::move(means)});
      }
    }
    return shared;
  }

  OpenStudy& open_;
  Earlier& earlier_;
  ConfigurationId ours_;
  ConfigurationId theirs_;
  std::vector<const core::Visit*> visits_;
  std::vector<std::size_t> cases_;  ///< theirs, by ours
  std::set<std::size_t> filled_;
  core::TakenLevel taken_;
};

std::string namesOf(const core::Study& study) {
  std::string names;
  for (const ConfigurationId one : core::configurationsOf(study))
    names += (names.empty() ? "'" : ", '") + study.nameOf(one) + "'";
  return names;
}

core::Status checkMayTake(const OpenStudy& open, ConfigurationId configuration) {
  const core::Record record = store::recordOf(open.recorded());
  if (open.visit())
    return Error{ErrorKind::NotAllowed, "a level is taken before the first visit of a study, never by what it showed",
                 open.path(), "Make a new study from this one, and take the level there"};
  if (record.taken.contains(configuration))
    return Error{ErrorKind::NotAllowed, "that level was taken before", open.path(), "Name another one"};
  if (record.taken.size() + 2 > open.study().configurationCount())
    return Error{ErrorKind::NotAllowed, "one level at least is measured here", open.path(),
                 "Lay the two studies beside each other: `beside` needs no new passes"};
  return core::Done{};
}

core::Status checkMayGive(Earlier& earlier, const OpenStudy& open, const store::BenchNames& names) {
  const auto theirs = names.now(earlier.study().bench);
  const auto ours = names.now(open.study().bench);
  if (!theirs) return theirs.error();
  if (!ours) return ours.error();

  if (earlier.file().identity() == open.file().identity())
    return Error{ErrorKind::NotAllowed, "that is this study, or a copy of it", earlier.name(), "Name an earlier one"};
  if (*theirs != *ours)
    return Error{ErrorKind::NotAllowed,
                 fmt::format("it was measured at {}, and this study asks about {}",
                             earlier.study().bench.empty() ? "a bench without a name" : earlier.study().bench,
                             open.study().bench.empty() ? "one without a name" : open.study().bench),
                 earlier.name(), "Lay the two beside each other: levels between benches are compared there"};
  if (earlier.isSealed())
    return Error{ErrorKind::NotAllowed, "its results are sealed until its plan is complete", earlier.name(),
                 "Let it be finished first"};
  return core::Done{};
}

}  // namespace

core::Result<core::TakenLevel> takeLevel(OpenStudy& open, ConfigurationId configuration, const LevelSource& from,
                                         const store::BenchNames& names) {
  if (auto may = checkMayTake(open, configuration); !may) return may.error();
  auto earlier = readEarlier(from.path);
  if (!earlier) return earlier.error();
  if (auto may = checkMayGive(*earlier, open, names); !may) return may.error();
  const std::string level = from.level.empty() ? open.study().nameOf(configuration) : from.level;
  const auto theirs = core::findConfiguration(earlier->study(), level);
  if (!theirs)
    return Error{ErrorKind::Missing, fmt::format("it has no level '{}'", level), from.path,
                 "Name one of its levels: " + namesOf(earlier->study())};
  Taking taking(open, *earlier, configuration, *theirs);
  if (auto fits = taking.check(); !fits) return fits.error();
  auto lock = FileLock::acquire(open.path(), open.person());
  if (!lock) return lock.error();
  if (auto filed = open.file().inOneAct([&] { return taking.file(); }); !filed) return filed.error();
  if (auto read = open.read(); !read) return read.error();
  return taking.taken();
}

}  // namespace session
