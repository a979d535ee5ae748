#include "core/machine/difference_sentences.h"

#include <set>

#include <fmt/format.h>

#include "core/machine/fact_title.h"
#include "core/machine/links.h"
#include "core/machine/processor_lists.h"

namespace core {
namespace {

bool isModule(const std::string& field) { return field.starts_with("dmi/memory/"); }

std::string leafOf(const std::string& field) { return field.substr(field.rfind('/') + 1); }

// "2 of 4 processors run now: 0-1".
std::string runningText(const Difference& difference) {
  const std::size_t before = processorsIn(difference.from.value).size();
  const std::size_t after = processorsIn(difference.to.value).size();
  return fmt::format("the running processors went from {} ({}) to {} ({})", before, difference.from.value, after,
                     difference.to.value);
}

std::string placesText(std::size_t count, bool is_module) {
  if (count < 2) return "";
  if (!is_module) return count == 2 ? " at both ends" : fmt::format(" at {} ends", count);
  return count == 2 ? " on both modules" : fmt::format(" on all {} modules", count);
}

}  // namespace

std::vector<std::string> differenceSentences(const std::vector<Difference>& differences) {
  std::vector<std::string> sentences;
  std::set<std::string> done;
  for (const Difference& difference : differences) {
    if (done.contains(difference.field)) continue;
    std::size_t count = 0;
    for (const Difference& other : differences) {
      const bool is_same_kind = (isModule(other.field) && isModule(difference.field)) ||
                                (isLinkEnd(other.field) && isLinkEnd(difference.field));
      const bool is_alike = other.field == difference.field ||
                            (is_same_kind && leafOf(other.field) == leafOf(difference.field) &&
                             other.from.value == difference.from.value && other.to.value == difference.to.value);
      if (!is_alike) continue;
      ++count;
      done.insert(other.field);
    }
    const std::string& field = difference.field;
    const Fact& from = difference.from;
    const Fact& to = difference.to;
    const std::string subject = factTitle(field);
    std::string text;
    if (field == "cpu/online" && from.isRead() && to.isRead())
      text = runningText(difference);
    else if (!from.isRead())
      text = fmt::format("{} appeared ({})", subject, to.shown());
    else if (!to.isRead())
      text = fmt::format("{} is gone (was {})", subject, from.shown());
    else if (from.number && to.number)
      text = fmt::format("{} {} from {} to {}", subject, *to.number < *from.number ? "dropped" : "rose",
                         from.unit == "bytes" ? from.shown() : from.value, to.shown());
    else
      text = fmt::format("{} changed from {} to {}", subject, from.shown(), to.shown());
    sentences.push_back(text + placesText(count, isModule(field)));
  }
  return sentences;
}

}  // namespace core
