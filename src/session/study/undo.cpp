#include "session/study/undo.h"

#include <type_traits>
#include <variant>

namespace session {
namespace {

/// The last act of a type before `at` about the same thing; nullptr where there is none.
template <class Act, class Same>
const Act* earlier(std::span<const store::Event> events, std::size_t at, Same is_same) {
  for (std::size_t i = at; i-- > 0;)
    if (const auto* act = std::get_if<Act>(&events[i].act); act != nullptr && is_same(events[i], *act)) return act;
  return nullptr;
}

/// What takes back the event at a place.
class TakeBack {
 public:
  TakeBack(std::span<const store::Event> events, std::size_t at) : events_(events), at_(at) {}

  std::optional<core::Act> operator()(const core::PassExcluded& act) const { return core::PassIncluded{act.pass_id}; }
  std::optional<core::Act> operator()(const core::PassIncluded& act) const {
    const auto* out = earlier<core::PassExcluded>(
        events_, at_, [&](const auto&, const core::PassExcluded& one) { return one.pass_id == act.pass_id; });
    if (out == nullptr) return std::nullopt;
    return *out;
  }
  std::optional<core::Act> operator()(const core::CasePinned& act) const {
    const auto* was = earlier<core::CasePinned>(
        events_, at_, [&](const auto&, const core::CasePinned& one) { return one.case_title == act.case_title; });
    return was != nullptr ? *was : core::CasePinned{act.case_title, ""};
  }
  std::optional<core::Act> operator()(const core::CauseGiven& act) const {
    const auto* was =
        earlier<core::CauseGiven>(events_, at_, [&](const store::Event& event, const core::CauseGiven& one) {
          return one.case_title == act.case_title && event.person == events_[at_].person;
        });
    return was != nullptr ? *was : core::CauseGiven{act.case_title, act.grade, ""};
  }
  std::optional<core::Act> operator()(const core::FactStated& act) const {
    const auto* was = earlier<core::FactStated>(
        events_, at_, [&](const auto&, const core::FactStated& one) { return one.fact_id == act.fact_id; });
    return was != nullptr ? *was : core::FactStated{act.fact_id, ""};
  }
  std::optional<core::Act> operator()(const core::ChangePredicted&) const {
    const auto* was = earlier<core::ChangePredicted>(
        events_, at_, [&](const store::Event& event, const auto&) { return event.person == events_[at_].person; });
    return was != nullptr ? *was : core::ChangePredicted{};
  }
  template <class Other>
  std::optional<core::Act> operator()(const Other&) const {
    return std::nullopt;
  }

 private:
  std::span<const store::Event> events_;
  std::size_t at_;
};

/// What the program notes by itself is nobody's decision.
bool isOfTheProgram(const core::Act& act) {
  return std::holds_alternative<core::FlipBegun>(act) || std::holds_alternative<core::LevelAsked>(act) ||
         std::holds_alternative<core::SettingBegun>(act) || std::holds_alternative<core::UpdateSeen>(act) ||
         std::holds_alternative<core::ClocksCompared>(act) || std::holds_alternative<core::NullStudyTaken>(act) ||
         std::holds_alternative<core::LevelTaken>(act);
}

}  // namespace

std::optional<Undo> undoOf(std::span<const store::Event> events) {
  for (std::size_t i = events.size(); i-- > 0;) {
    if (isOfTheProgram(events[i].act)) continue;
    auto act = std::visit(TakeBack(events, i), events[i].act);
    if (!act) return std::nullopt;
    return Undo{*std::move(act), events[i].person};
  }
  return std::nullopt;
}

}  // namespace session
