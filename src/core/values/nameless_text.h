#pragma once

#include <map>
#include <set>
#include <string>
#include <string_view>

#include "core/values/personal_text.h"

namespace core {

/// Calls by number what texts say of a person or of their machine: the same thing everywhere by the same number, so
/// that what was alike stays alike.
class NamelessText {
 public:
  /// `kinds`: what is called by number; the rest stays.
  NamelessText(KnownNames known, std::set<PersonalKind> kinds) : known_(std::move(known)), kinds_(std::move(kinds)) {}

  /// A text in which it is "Person 1", "(path 2)", "(host 1)", "(number 3)".
  [[nodiscard]] std::string of(std::string_view text) { return without(text, true); }
  /// The same where names cannot be meant, whatever somebody is called: of a key, an id.
  [[nodiscard]] std::string ofKey(std::string_view text) { return without(text, false); }
  /// What stands for a person, whatever they are called; nobody stays nobody.
  [[nodiscard]] std::string ofPerson(const std::string& person);
  /// How many things of each kind were met.
  [[nodiscard]] std::map<PersonalKind, int> met() const;

 private:
  [[nodiscard]] std::string without(std::string_view text, bool has_names);
  [[nodiscard]] std::string numbered(const PersonalText& one);

  KnownNames known_;
  std::set<PersonalKind> kinds_;
  std::map<PersonalText, int> numbers_;
};

}  // namespace core
