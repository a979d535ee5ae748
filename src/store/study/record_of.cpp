// What the events of a study say, for whoever judges it.
#include <limits>
#include <map>
#include <optional>

#include "core/machine/stated_fact.h"
#include "store/study/study_file.h"

namespace store {
namespace {

/// Of each key the latest value, in the order in which they were said.
template <class Key, class Value>
class Latest {
 public:
  void put(const Key& key, std::optional<Value> value) {
    const auto known = places_.find(key);
    if (known != places_.end()) values_[known->second].reset();
    if (!value) return;
    places_[key] = values_.size();
    values_.push_back(std::move(value));
  }
  [[nodiscard]] std::vector<Value> take() {
    std::vector<Value> taken;
    for (std::optional<Value>& value : values_)
      if (value) taken.push_back(*std::move(value));
    return taken;
  }

 private:
  std::map<Key, std::size_t> places_;
  std::vector<std::optional<Value>> values_;
};

/// Takes one event after the other into what a judgement rests on.
class Fold {
 public:
  Fold(core::Record& record, const Recorded& recorded) : record_(record), recorded_(recorded) {}

  void take(const Event& event) {
    event_ = &event;
    std::visit(*this, event.act);
  }
  void finish() {
    record_.predictions = predictions_.take();
    record_.explanations = explanations_.take();
  }

  void operator()(const core::DoubtAccepted& act) { record_.acceptances.emplace_back(act.doubt_id, act.reason); }
  void operator()(const core::OpenedEarly& act) {
    if (record_.opened_early.empty()) record_.opened_early = act.reason;
  }
  void operator()(const core::Unreachable& act) { record_.unreachable.push_back(act); }
  void operator()(const core::LevelStable& act) { record_.stable.insert(act.configuration); }
  void operator()(const core::ChangePredicted& act) {
    predictions_.put(event_->person,
                     act.percent ? std::optional(core::Prediction{event_->person, *act.percent}) : std::nullopt);
  }
  void operator()(const core::PassFelt& act) { record_.felt.push_back({act.pass_id, event_->person, act.word}); }
  void operator()(const core::CauseGiven& act) {
    explanations_.put({act.case_title, event_->person},
                      act.text.empty()
                          ? std::nullopt
                          : std::optional(core::Explanation{act.case_title, act.grade, act.text, event_->person}));
  }
  void operator()(const core::CasePinned& act) {
    record_.pins.erase(act.case_title);
    if (!act.remark.empty()) record_.pins[act.case_title] = act.remark;
  }
  void operator()(const core::NullStudyTaken& act) { record_.null_study = act.record; }
  void operator()(const core::LevelTaken& act) { record_.taken[act.configuration] = act.taken; }
  void operator()(const core::StoppedAtLook&) { record_.is_stopped_at_look = true; }
  void operator()(const core::SettingPutBack& act) {
    const bool is_proved_since = !recorded_.visits.empty() && recorded_.visits.back().started_ms > event_->at_ms;
    if (!is_proved_since) record_.put_back = act.what;
  }
  void operator()(const core::Skipped& act) { record_.skipped.push_back(act); }
  void operator()(const core::AttemptGranted& act) { record_.repeats.push_back(act.slot); }
  void operator()(const core::FlipBegun& act) { record_.flips.push_back({act.visit, event_->at_ms}); }
  void operator()(const core::LevelAsked& act) { record_.asked.push_back({act.visit, event_->at_ms}); }
  void operator()(const core::MeasuredAnyway& act) { record_.measured_anyway[act.visit_id] = act.reason; }
  void operator()(const core::VisitRepeated& act) { record_.repeated_visits.push_back({act.visit, act.last_pass_id}); }
  void operator()(const core::SettingBegun&) {}
  void operator()(const core::StepTried& act) { record_.steps_tried.push_back(act); }
  void operator()(const core::PointTicked& act) {
    if (act.is_done)
      record_.ticked[act.visit].insert(act.point);
    else
      record_.ticked[act.visit].erase(act.point);
  }
  void operator()(const core::UpdateSeen& act) { record_.updates.push_back(act.program); }
  void operator()(const core::Observed& act) {
    record_.observations.push_back({event_->person, event_->at_ms, act.text});
  }
  void operator()(const core::PlanChanged& act) { record_.plan_changes.push_back(act.what); }
  void operator()(const core::JudgingChange& act) { record_.judging_changes.push_back(act); }
  // Of these a judgement knows by other ways, or they are for the logbook alone.
  void operator()(const core::PassExcluded&) {}
  void operator()(const core::PassIncluded&) {}
  void operator()(const core::FactStated&) {}
  void operator()(const core::LimitReached&) {}
  void operator()(const core::NoteMade&) {}
  void operator()(const core::ClocksCompared&) {}
  void operator()(const core::OtherAct&) {}

 private:
  core::Record& record_;
  const Recorded& recorded_;
  const Event* event_ = nullptr;
  Latest<std::string, core::Prediction> predictions_;
  Latest<std::pair<std::string, std::string>, core::Explanation> explanations_;
};

/// What people stated about the bench after `since_ms`: of each fact the latest, by its id.
std::map<std::string, core::Fact> statedSince(const Recorded& recorded, std::int64_t since_ms) {
  std::map<std::string, core::Fact> said;
  for (const Event& event : recorded.events) {
    const auto* stated = std::get_if<core::FactStated>(&event.act);
    if (stated == nullptr || event.at_ms <= since_ms) continue;
    said.erase(stated->fact_id);
    if (stated->value.empty()) continue;
    if (auto fact = core::statedFact(stated->fact_id, stated->value, event.person))
      said[stated->fact_id] = *std::move(fact);
  }
  return said;
}

std::vector<core::Fact> factsOf(std::map<std::string, core::Fact> said) {
  std::vector<core::Fact> facts;
  for (auto& [id, fact] : said) facts.push_back(std::move(fact));
  return facts;
}

// What was said of the bench when its last capture had been taken, so that no capture holds it.
std::vector<core::Fact> statedAfterwards(const Recorded& recorded, const core::BenchClock& clock) {
  std::int64_t last_ms = 0;
  for (const core::VisitCapture& one : recorded.captures)
    last_ms = std::max(last_ms, clock.atDesk(one.capture.taken_ms));
  return factsOf(statedSince(recorded, last_ms));
}

}  // namespace

void enter(Event event, Recorded& recorded) {
  const auto leave_out = [&](std::int64_t pass_id, const std::string& cause) {
    const auto place = static_cast<std::size_t>(pass_id);  // they count from 1
    if (place >= 1 && place <= recorded.passes.size()) recorded.passes[place - 1].excluded_because = cause;
  };
  if (const auto* out = std::get_if<core::PassExcluded>(&event.act)) leave_out(out->pass_id, out->cause);
  if (const auto* in = std::get_if<core::PassIncluded>(&event.act)) leave_out(in->pass_id, "");
  if (const auto* level = std::get_if<core::LevelTaken>(&event.act))
    for (core::Visit& visit : recorded.visits) visit.is_taken = visit.is_taken || level->taken.hasVisit(visit.id);
  recorded.events.push_back(std::move(event));
}

core::BenchClock benchClockOf(const Recorded& recorded) {
  core::BenchClock clock;
  for (const Event& event : recorded.events)
    if (const auto* compared = std::get_if<core::ClocksCompared>(&event.act))
      clock.add(event.at_ms, compared->difference);
  return clock;
}

core::Record recordOf(const Recorded& recorded) {
  core::Record record;
  record.visits = recorded.visits;
  record.passes = recorded.passes;
  record.captures = recorded.captures;
  record.measurements = recorded.measurements;
  Fold fold(record, recorded);
  for (const Event& event : recorded.events) fold.take(event);
  fold.finish();
  record.clock = benchClockOf(recorded);
  record.stated_afterwards = statedAfterwards(recorded, record.clock);
  return record;
}

std::vector<core::Fact> statedFactsOf(const Recorded& recorded) {
  return factsOf(statedSince(recorded, std::numeric_limits<std::int64_t>::min()));
}

}  // namespace store
