// What the events of a study say, for whoever judges it.
#include <map>
#include <optional>

#include "core/machine/stated_fact.h"
#include "core/values/number_text.h"
#include "store/json/null_record_json.h"
#include "store/study/event_kinds.h"
#include "store/study/study_file.h"
#include "store/study/study_rows.h"

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

std::optional<core::Prediction> predictionFrom(const Event& event) {
  const auto percent = core::numberOf(event.text);
  return percent ? std::optional(core::Prediction{event.person, *percent}) : std::nullopt;
}

}  // namespace

// What was said of the bench when its last capture had been taken, so that no capture holds it.
static std::vector<core::Fact> statedAfterwards(const Recorded& recorded) {
  std::int64_t last_ms = 0;
  for (const core::VisitCapture& one : recorded.captures) last_ms = std::max(last_ms, one.capture.taken_ms);
  std::map<std::string, core::Fact> said;
  for (const Event& event : recorded.events) {
    if (event.kind != events::kStated || event.at_ms <= last_ms) continue;
    said.erase(event.subject);
    if (!event.text.empty())
      if (auto fact = core::statedFact(event.subject, event.text, event.person)) said[event.subject] = *std::move(fact);
  }
  std::vector<core::Fact> facts;
  for (auto& [id, fact] : said) facts.push_back(std::move(fact));
  return facts;
}

core::Record recordOf(const Recorded& recorded) {
  core::Record record;
  record.visits = recorded.visits;
  record.passes = recorded.passes;
  record.captures = recorded.captures;
  record.measurements = recorded.measurements;
  Latest<std::string, core::Prediction> predictions;
  Latest<std::pair<std::string, std::string>, core::Explanation> explanations;
  for (const Event& event : recorded.events) {
    if (event.kind == events::kAccepted) record.acceptances.emplace_back(event.subject, event.text);
    if (event.kind == events::kOpenedEarly && record.opened_early.empty()) record.opened_early = event.text;
    if (event.kind == events::kNotReachable) record.unreachable.push_back({events::sideOf(event.subject), event.text});
    if (event.kind == events::kStable) record.is_stable[static_cast<std::size_t>(events::sideOf(event.subject))] = true;
    if (event.kind == events::kPredicted) predictions.put(event.person, predictionFrom(event));
    if (event.kind == events::kFelt)
      record.felt.push_back({numberedSubject(event).value_or(0), event.person, event.text});
    if (event.kind == events::kExplained)
      explanations.put({event.subject, event.person},
                       core::Explanation::fromFiled(event.subject, event.text, event.person));
    if (event.kind == events::kPinned) {
      record.pins.erase(event.subject);
      if (!event.text.empty()) record.pins[event.subject] = event.text;
    }
    if (event.kind == events::kNullStudy) record.null_study = nullRecordFromJson(event.text);
    if (event.kind == events::kStoppedAtLook) record.is_stopped_at_look = true;
    const bool is_proved_since = !recorded.visits.empty() && recorded.visits.back().started_ms > event.at_ms;
    if (event.kind == events::kRestored && !is_proved_since) record.put_back = event.text;
    const std::int64_t number = numberedSubject(event).value_or(0);
    if (event.kind == events::kSkip) record.skipped.push_back({static_cast<std::size_t>(number), event.text});
    if (event.kind == events::kRepeat) record.repeats.push_back(static_cast<std::size_t>(number));
    if (event.kind == events::kFlip) record.flips.push_back({static_cast<int>(number), event.at_ms});
    if (event.kind == events::kUpdating) record.updates.push_back(event.text);
    if (event.kind == events::kPlanChanged) record.plan_changes.push_back(event.text);
    if (event.kind == events::kJudgingChanged)
      record.judging_changes.push_back({event.text, event.subject == events::kSeen});
  }
  record.predictions = predictions.take();
  record.explanations = explanations.take();
  record.stated_afterwards = statedAfterwards(recorded);
  return record;
}

std::vector<core::Fact> statedFactsOf(const Recorded& recorded) {
  std::map<std::string, const Event*> latest;
  for (const Event& event : recorded.events)
    if (event.kind == events::kStated) latest[event.subject] = &event;
  std::vector<core::Fact> facts;
  for (const auto& [id, event] : latest)
    if (!event->text.empty())
      if (auto fact = core::statedFact(id, event->text, event->person)) facts.push_back(*std::move(fact));
  return facts;
}

}  // namespace store
