#include "core/machine/fact.h"

#include <algorithm>

#include "core/machine/fact_title.h"

namespace core {
namespace {

struct ByName {
  bool operator()(const Fact& fact, std::string_view name) const { return fact.name < name; }
};

}  // namespace

const char* factKindName(FactKind kind) {
  switch (kind) {
    case FactKind::Configuration: return "configuration";
    case FactKind::Evidence: return "evidence";
    case FactKind::Volatile: return "volatile";
    case FactKind::Identity: return "identity";
  }
  return "unknown";
}

const char* factStatusName(FactStatus status) {
  switch (status) {
    case FactStatus::Read: return "read";
    case FactStatus::Absent: return "absent";
    case FactStatus::Denied: return "denied";
    case FactStatus::Unreadable: return "unreadable";
  }
  return "unknown";
}

std::string Fact::shown() const {
  if (unit == "bytes" && number) return sizeText(*number);
  return unit.empty() ? value : value + " " + unit;
}

const Fact* Capture::find(std::string_view name) const {
  const auto at = std::lower_bound(facts.begin(), facts.end(), name, ByName{});
  return at != facts.end() && at->name == name ? &*at : nullptr;
}

std::string Capture::text(std::string_view name) const {
  const Fact* fact = find(name);
  return fact && fact->isRead() ? fact->value : std::string();
}

std::optional<double> Capture::number(std::string_view name) const {
  const Fact* fact = find(name);
  return fact && fact->isRead() ? fact->number : std::nullopt;
}

std::span<const Fact> Capture::below(std::string_view prefix) const {
  const auto begin = std::lower_bound(facts.begin(), facts.end(), prefix, ByName{});
  auto end = begin;
  while (end != facts.end() && end->name.starts_with(prefix)) ++end;
  return {begin, end};
}

void Capture::put(Fact fact) {
  const auto at = std::lower_bound(facts.begin(), facts.end(), fact.name, ByName{});
  if (at != facts.end() && at->name == fact.name)
    *at = std::move(fact);
  else
    facts.insert(at, std::move(fact));
}

// Greedy with one place to fall back to: after a * fails, the star takes one more character.
bool matchesPattern(std::string_view pattern, std::string_view name) {
  std::size_t p = 0;
  std::size_t n = 0;
  std::size_t star = std::string_view::npos;
  std::size_t resume = 0;
  while (n < name.size()) {
    if (p < pattern.size() && pattern[p] == '*') {
      star = p++;
      resume = n;
    } else if (p < pattern.size() && pattern[p] == name[n]) {
      ++p;
      ++n;
    } else if (star != std::string_view::npos) {
      p = star + 1;
      n = ++resume;
    } else {
      return false;
    }
  }
  while (p < pattern.size() && pattern[p] == '*') ++p;
  return p == pattern.size();
}

}  // namespace core
