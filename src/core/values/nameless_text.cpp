#include "core/values/nameless_text.h"

#include <algorithm>
#include <cctype>
#include <vector>

#include <fmt/format.h>

namespace core {
namespace {

bool isPartOfWord(char c) { return std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '_'; }

bool isWord(const std::string& text, std::size_t at, std::size_t size) {
  return (at == 0 || !isPartOfWord(text[at - 1])) && (at + size == text.size() || !isPartOfWord(text[at + size]));
}

void replaceAll(std::string& text, const std::string& what, const std::string& with, bool only_words) {
  for (std::size_t at = 0; (at = text.find(what, at)) != std::string::npos;) {
    if (only_words && !isWord(text, at, what.size())) {
      at += what.size();
      continue;
    }
    text.replace(at, what.size(), with);
    at += with.size();
  }
}

bool isName(PersonalKind kind) { return kind == PersonalKind::Person || kind == PersonalKind::Host; }

}  // namespace

std::string NamelessText::numbered(const PersonalText& one) {
  const auto same_kind =
      std::count_if(numbers_.begin(), numbers_.end(), [&](const auto& known) { return known.first.kind == one.kind; });
  const int number = numbers_.emplace(one, static_cast<int>(same_kind) + 1).first->second;
  switch (one.kind) {
    case PersonalKind::Person: return fmt::format("Person {}", number);
    case PersonalKind::Path: return fmt::format("(path {})", number);
    case PersonalKind::Host: return fmt::format("(host {})", number);
    case PersonalKind::Identifier: return fmt::format("(number {})", number);
  }
  return {};
}

std::string NamelessText::without(std::string_view text, bool has_names) {
  std::vector<PersonalText> found = personalTexts(text, known_);
  // Names of one or two letters are words of many sentences: only what is nothing but such a name, within quotes.
  for (const std::string& person : known_.people)
    if (person.size() < 3 && text.find('"' + person + '"') != std::string_view::npos)
      found.push_back({PersonalKind::Person, person});
  std::erase_if(found, [&](const PersonalText& one) {
    return !kinds_.contains(one.kind) || (!has_names && isName(one.kind)) ||
           (one.kind == PersonalKind::Person && one.text == "root");
  });
  // What stands within something longer is gone with it.
  std::stable_sort(found.begin(), found.end(), [](const PersonalText& one, const PersonalText& other) {
    return one.text.size() > other.text.size();
  });
  std::string nameless(text);
  for (const PersonalText& one : found) {
    if (isName(one.kind) && one.text.size() < 3)
      replaceAll(nameless, '"' + one.text + '"', '"' + numbered(one) + '"', false);
    else
      replaceAll(nameless, one.text, numbered(one), isName(one.kind));
  }
  return nameless;
}

std::string NamelessText::ofPerson(const std::string& person) {
  if (person.empty() || !kinds_.contains(PersonalKind::Person)) return person;
  return numbered({PersonalKind::Person, person});
}

std::map<PersonalKind, int> NamelessText::met() const {
  std::map<PersonalKind, int> counts;
  for (const auto& [one, number] : numbers_) counts[one.kind] = std::max(counts[one.kind], number);
  return counts;
}

}  // namespace core
