#include "core/machine/comparison.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>

#include "core/machine/difference_sentences.h"
#include "core/machine/fact_title.h"
#include "core/machine/familiar_addresses.h"
#include "core/machine/held_conditions.h"
#include "core/machine/links.h"
#include "core/machine/processor_lists.h"

namespace core {
namespace {

// Usable memory drifts a little between kernels and restarts.
constexpr double kMemoryTolerance = 0.001;

constexpr const char* kIdled = "read while the device idled: a link is lowered then to save power";

using Patterns = std::vector<std::string>;

bool fitsAny(const Patterns& patterns, const std::string& name) {
  return std::any_of(patterns.begin(), patterns.end(),
                     [&](const std::string& pattern) { return matchesPattern(pattern, name); });
}

Patterns placed(const std::vector<std::string_view>& patterns, const std::string& device, const DevicePath& path) {
  Patterns all;
  for (const std::string_view pattern : patterns)
    for (std::string& one : placedPatterns(pattern, device, path)) all.push_back(std::move(one));
  return all;
}

struct Rules {
  Patterns must_change;
  Patterns any_of;
  Patterns comes_along;
  Patterns must_stay;
  Patterns itself;
};

// The way may lead over other ports at the other level: both ways count.
DevicePath bothWays(const DevicePath& baseline, const DevicePath& changed) {
  DevicePath both = baseline;
  for (const std::string& address : changed.chain)
    if (std::find(both.chain.begin(), both.chain.end(), address) == both.chain.end()) both.chain.push_back(address);
  return both;
}

Rules rulesOf(const ComparisonOrder& order, const DevicePath& path) {
  Rules rules{placed(order.kind->must_change, order.device, path), placed(order.kind->any_of, order.device, path),
              placed(order.kind->comes_along, order.device, path), placed(order.kind->must_stay, order.device, path),
              placed(order.kind->itself, order.device, path)};
  rules.comes_along.insert(rules.comes_along.end(), rules.itself.begin(), rules.itself.end());
  // One part in two settings is one more arm of its kind: either the part moved, or what was declared of it.
  const bool is_either = order.kind->is_whole && !order.declared_fields.empty();
  if (is_either) rules.any_of.insert(rules.any_of.end(), rules.must_change.begin(), rules.must_change.end());
  if (is_either) rules.must_change.clear();
  // A fact that is named must move; of those that a pattern meets, one.
  for (const std::string& field : order.declared_fields) {
    Patterns& list = !is_either && field.find('*') == std::string::npos ? rules.must_change : rules.any_of;
    for (std::string& one : placedPatterns(field, order.device, path)) list.push_back(std::move(one));
  }
  return rules;
}

// The firmware's reserve is the small difference of two large numbers: half of the smallest step that it is set in.
double toleranceOf(const Fact& a, const Fact& b) {
  constexpr double kHalfACarveOutStep = 32.0 * (1 << 20);
  if (a.name == "memory/firmware_reserve") return kHalfACarveOutStep;
  const bool is_usable_memory = a.name == "memory/total" || a.name == "memory/system_ram";
  return is_usable_memory ? kMemoryTolerance * std::max(*a.number, *b.number) : 0;
}

bool isSame(const Fact& a, const Fact& b) {
  if (a.status != b.status) return false;
  if (a.number && b.number) return std::abs(*a.number - *b.number) <= toleranceOf(a, b);
  return a.value == b.value;
}

Fact absent(const std::string& name) {
  Fact fact;
  fact.name = name;
  fact.status = FactStatus::Absent;
  return fact;
}

class Comparing {
 public:
  Comparing(const Capture& baseline, const Capture& changed, const ComparisonOrder& order)
      : baseline_(baseline),
        changed_(withFamiliarAddresses(baseline, changed)),
        order_(order),
        path_(devicePath(baseline_, order.device)),
        rules_(rulesOf(order, bothWays(path_, devicePath(changed_, order.device)))) {}

  Comparison run() {
    std::set<std::string> names;
    for (const Fact& fact : baseline_.facts) names.insert(fact.name);
    for (const Fact& fact : changed_.facts) names.insert(fact.name);
    for (const std::string& name : names) sort(name);
    takeHeld();
    foldConsequences();
    judge();
    return std::move(result_);
  }

 private:
  void sort(const std::string& name) {
    const Fact* known_from = baseline_.find(name);
    const Fact* known_to = changed_.find(name);
    const Fact from = known_from ? *known_from : absent(name);
    const Fact to = known_to ? *known_to : absent(name);
    // What nobody stated at one of the levels is not known to be different there.
    if (name.starts_with("stated/") && (!known_from || !known_to)) return;
    const FactKind kind = known_from ? from.kind : to.kind;
    const auto is_lost = [](const Fact& fact) {
      return fact.status == FactStatus::Denied || fact.status == FactStatus::Unreadable;
    };
    if (kind == FactKind::Volatile || kind == FactKind::Identity) return leaveOut(from, to);
    if (is_lost(from) || is_lost(to)) {
      if (kind != FactKind::Evidence) result_.unread.push_back({name, is_lost(from) ? from.why : to.why});
      return;
    }
    if (isSame(from, to) || isSameWhereBothRun(from, to)) {
      if (kind == FactKind::Configuration && from.isRead()) result_.unchanged.push_back(name);
      return;
    }
    if (isAsleep(name)) return result_.unread.push_back({name, kIdled});
    Difference difference{name, from, to, {}};
    if (kind == FactKind::Evidence)
      result_.evidence.push_back(std::move(difference));
    else
      groupOf(difference).push_back(std::move(difference));
  }

  // Lists by processor follow from which processors run; that is told once, by the list of those.
  [[nodiscard]] bool isSameWhereBothRun(const Fact& from, const Fact& to) const {
    static const std::set<std::string> kByProcessor{"cpu/driver",  "cpu/governor", "cpu/epp",
                                                    "cpu/min_khz", "cpu/max_khz",  "cpu/limit_khz"};
    return kByProcessor.contains(from.name) && from.isRead() && to.isRead() &&
           isSameOnSharedProcessors(from.value, baseline_.text("cpu/online"), to.value, changed_.text("cpu/online"));
  }

  std::vector<Difference>& groupOf(const Difference& difference) {
    const std::string& name = difference.field;
    // A module that was added or taken away brings or takes its facts: none of its settings changed.
    const bool came_or_went = name.starts_with("dmi/memory/") && difference.from.isRead() != difference.to.isRead();
    if (came_or_went && fitsAny(rules_.comes_along, name)) return result_.comes_along;
    if (fitsAny(rules_.must_change, name) || fitsAny(rules_.any_of, name)) return result_.meant;
    if (fitsAny(rules_.must_stay, name)) return result_.must_not;
    return fitsAny(rules_.comes_along, name) ? result_.comes_along : result_.must_not;
  }

  // A link of the device under test that is not the variable, in a capture without load: its change says nothing.
  [[nodiscard]] bool isAsleep(const std::string& name) const {
    if (!isLinkEnd(name) || fitsAny(rules_.must_change, name) || fitsAny(rules_.any_of, name)) return false;
    const std::string address = name.substr(4, name.find('/', 4) - 4);
    if (std::find(path_.chain.begin(), path_.chain.end(), address) == path_.chain.end()) return false;
    return isIdle(baseline_, order_.device) || isIdle(changed_, order_.device);
  }

  void leaveOut(const Fact& from, const Fact& to) {
    const std::string& said = from.group.empty() ? to.group : from.group;
    const std::string group = said.empty() ? "numbers that the system deals out" : said;
    if (from.value == to.value ||
        std::find(result_.left_out.begin(), result_.left_out.end(), group) != result_.left_out.end())
      return;
    result_.left_out.push_back(group);
  }

  // What a tester holds equal while a whole is exchanged, and the facts of their own, are no part of what may come
  // along.
  void takeHeld() {
    for (const std::string_view id : order_.kind->held) {
      const HeldCondition& condition = *findHeldCondition(id);
      if (!order_.released.contains(std::string(id))) compareHeld(condition);
    }
    std::erase_if(result_.comes_along, [&](const Difference& d) {
      if (!fitsAny(order_.held, d.field) || isReleased(d.field)) return false;
      result_.held.push_back(d);
      return true;
    });
    std::erase_if(result_.must_not, [&](const Difference& d) {
      if (!isReleased(d.field)) return false;
      result_.comes_along.push_back(d);  // with a reason on record; it is told, and stops nothing
      return true;
    });
  }

  // By its own name, or by the pattern by which it is held.
  [[nodiscard]] bool isReleased(const std::string& field) const {
    return fitsAny(order_.held, field) &&
           std::any_of(order_.released.begin(), order_.released.end(),
                       [&](const auto& one) { return matchesPattern(one.first, field); });
  }

  void compareHeld(const HeldCondition& condition) {
    const Fact from = heldFact(condition, baseline_, order_.device);
    const Fact to = heldFact(condition, changed_, order_.device);
    const Patterns facts = placedFacts(condition, order_.device, bothWays(path_, devicePath(changed_, order_.device)));
    for (const Fact* one : {&from, &to})
      if (one->status == FactStatus::Denied || one->status == FactStatus::Unreadable) return;  // said by its facts
    if (from.value == to.value || !from.isRead() || !to.isRead()) return;
    if (condition.id == "device/link_speed" && (isIdle(baseline_, order_.device) || isIdle(changed_, order_.device)))
      return result_.unread.push_back({from.name, kIdled});
    const auto is_behind = [&](const Difference& d) { return fitsAny(facts, d.field); };
    std::erase_if(result_.comes_along, is_behind);
    if (std::none_of(result_.must_not.begin(), result_.must_not.end(), is_behind))
      result_.held.push_back({from.name, from, to, {}});
  }

  // One cause is told once, with what follows from it.
  void foldConsequences() {
    const Patterns of_running{"cpu/cpu*",        "cpu/offline", "cpu/logical", "cpu/cores",
                              "cpu/smt_active",  "cpu/present", "cpu/types/*", "cpu/cache/*",
                              "dmi/processor/*", "numa/*",      "cpu/idle/*"};
    if (baseline_.text("cpu/cores") == changed_.text("cpu/cores")) {  // threads went, and no core did
      Patterns of_threads = of_running;
      of_threads.insert(of_threads.end(), {"cpu/online", "cpu/vulnerabilities/*"});
      fold("cpu/smt", of_threads);
    }
    fold("cpu/online", of_running);
    std::set<std::string> gone;  // devices
    for (const auto* list : {&result_.meant, &result_.comes_along, &result_.must_not})
      for (const Difference& difference : *list)
        if (difference.field.ends_with("/vendor") && difference.field.starts_with("pci/") &&
            difference.from.isRead() != difference.to.isRead())
          gone.insert(difference.field);
    for (const std::string& vendor : gone) fold(vendor, {vendor.substr(0, vendor.size() - 6) + "*"});
    for (Difference& difference : result_.comes_along)
      difference.is_setting_itself = fitsAny(rules_.itself, difference.field);
  }

  void fold(const std::string& cause, const Patterns& patterns) {
    for (auto* list : {&result_.meant, &result_.must_not, &result_.comes_along}) {
      const auto at = std::find_if(list->begin(), list->end(), [&](const Difference& d) { return d.field == cause; });
      if (at == list->end()) continue;
      Difference kept = *at;
      // An accident is never explained away by what was meant, nor by what came along.
      for (auto* others : {list, &result_.comes_along})
        std::erase_if(*others, [&](const Difference& d) {
          if (d.field == cause || !fitsAny(patterns, d.field)) return false;
          kept.consequences.push_back(d.field);
          return true;
        });
      *std::find_if(list->begin(), list->end(), [&](const Difference& d) { return d.field == cause; }) = kept;
      return;
    }
  }

  [[nodiscard]] bool hasChanged(const Patterns& patterns) const {
    return std::any_of(result_.meant.begin(), result_.meant.end(),
                       [&](const Difference& d) { return fitsAny(patterns, d.field); });
  }

  // Every declared field must have moved. One that nobody could read leaves it open.
  [[nodiscard]] Moved movedByFields() const {
    bool is_open = false;
    for (const std::string& pattern : rules_.must_change) {
      const bool is_unread = std::any_of(result_.unread.begin(), result_.unread.end(),
                                         [&](const Unverified& one) { return matchesPattern(pattern, one.field); });
      const bool is_equal = std::any_of(result_.unchanged.begin(), result_.unchanged.end(),
                                        [&](const std::string& one) { return matchesPattern(pattern, one); });
      if (is_equal) return Moved::No;
      if (is_unread)
        is_open = true;
      else if (!hasChanged({pattern}))
        return Moved::No;
    }
    if (!rules_.any_of.empty() && !hasChanged(rules_.any_of)) {
      const bool is_unread = std::any_of(result_.unread.begin(), result_.unread.end(),
                                         [&](const Unverified& one) { return fitsAny(rules_.any_of, one.field); });
      if (!is_unread) return Moved::No;
      is_open = true;
    }
    if (rules_.must_change.empty() && rules_.any_of.empty()) return Moved::Undetermined;
    return is_open ? Moved::Undetermined : Moved::Yes;
  }

  // A link that idles is lowered to save power: such a reading shows nothing about a setting.
  [[nodiscard]] std::string whyNotTrusted() const {
    if (!order_.kind->is_link) return "";
    for (const auto& [capture, name] :
         {std::pair{&baseline_, order_.baseline_name}, std::pair{&changed_, order_.changed_name}}) {
      const std::string state = capture->text("pci/" + order_.device + "/power_state");
      if (!state.empty() && state != "D0" && state != "unknown")
        return fmt::format("{} was read while the device was in power state {}: repeat it under load", name, state);
      if (isIdle(*capture, order_.device))
        return idleReason(name, *capture->number("pci/" + order_.device + "/gpu_busy_percent"));
    }
    return "";
  }

  [[nodiscard]] std::string idleReason(const std::string& name, double busy) const {
    std::string reason = fmt::format("{} was read at gpu_busy_percent {:g}; ", name, busy);
    const Hop* slot = path_.slotHop();
    const std::string target = slot ? "pci/" + slot->down + "/config (link control 2, target speed)" : "";
    if (std::find(result_.unchanged.begin(), result_.unchanged.end(), target) != result_.unchanged.end())
      return reason +
             "target speed in link control 2 is unchanged, so the lower speed is power management, not a setting";
    return reason + "a link that idles is lowered to save power: repeat it under load";
  }

  void judge() {
    result_.moved = movedByFields();
    const bool came_along = std::any_of(result_.comes_along.begin(), result_.comes_along.end(),
                                        [](const Difference& one) { return !one.is_setting_itself; });
    result_.only_variable_changed = result_.must_not.empty() && result_.held.empty() && !came_along;
    std::string reason;
    if (const std::string untrusted = whyNotTrusted(); !untrusted.empty() && result_.moved != Moved::No) {
      result_.moved = Moved::Undetermined;
      reason = untrusted;
    } else if (order_.kind->needs_reboot && !baseline_.boot_id.empty() && baseline_.boot_id == changed_.boot_id) {
      result_.moved = Moved::No;
      reason = "both captures are of one boot, and this variable needs a restart to change";
    } else if (result_.moved == Moved::No) {
      reason = fmt::format("the {} did not change: not saved, overridden, or not the setting in question",
                           order_.kind->title);
    } else if (result_.moved == Moved::Undetermined) {
      const bool is_placed = !rules_.must_change.empty() || !rules_.any_of.empty();
      const bool needs_place = !order_.kind->must_change.empty() || !order_.kind->any_of.empty();
      reason = is_placed     ? "what would show the change could not be read"
               : needs_place ? fmt::format("{} has no such link here: name the right device", order_.device)
                             : "no field is declared that would show the change: only a measurement can";
    }
    auto sentences = differenceSentences(result_.must_not);
    for (std::string& sentence : differenceSentences(result_.held)) sentences.push_back(std::move(sentence));
    for (const std::string& sentence : sentences) {
      if (!reason.empty()) reason += "; ";
      reason += sentence;
    }
    if (!sentences.empty() && result_.moved == Moved::Yes)
      reason += fmt::format(" together with the {} change", order_.kind->noun);
    result_.reason = reason;
  }

  const Capture& baseline_;
  Capture changed_;
  const ComparisonOrder& order_;
  DevicePath path_;
  Rules rules_;
  Comparison result_;
};

}  // namespace

const char* movedName(Moved moved) {
  switch (moved) {
    case Moved::Yes: return "moved as declared";
    case Moved::No: return "did not move";
    case Moved::Undetermined: return "cannot tell";
  }
  return "unknown";
}

Comparison compareCaptures(const Capture& baseline, const Capture& changed, const ComparisonOrder& order) {
  return Comparing(baseline, changed, order).run();
}

}  // namespace core
