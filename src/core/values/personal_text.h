#pragma once

#include <set>
#include <string>
#include <string_view>
#include <vector>

namespace core {

/// What a text may say of a person or of their machine. The names are printed for scripts and never change.
enum class PersonalKind {
  Person,      ///< a name under which somebody works
  Path,        ///< a place outside the system's folders
  Host,        ///< the name of the computer that looks
  Identifier,  ///< a UUID, a network address, a serial number, a mail address
};
/// "person", "path", "host", "identifier".
[[nodiscard]] const char* personalKindName(PersonalKind kind);

struct PersonalText {
  PersonalKind kind = PersonalKind::Path;
  std::string text;

  auto operator<=>(const PersonalText&) const = default;
};

/// Names that are looked for besides what has a form of its own.
struct KnownNames {
  std::set<std::string> people;
  std::string host;
};

/// What of it is found in a text, in order, the same thing once: paths outside the folders that every system has, whose
/// home they lie in, UUIDs, network hardware and mail addresses, machine ids (32 hexadecimal digits), and the known
/// names where they stand as words of three letters or more. What has no form (a name in a sentence) is not found.
[[nodiscard]] std::vector<PersonalText> personalTexts(std::string_view text, const KnownNames& known);

/// A text in which every home folder is "~", so that no path tells whose it is.
[[nodiscard]] std::string withoutHomes(std::string_view text);

}  // namespace core
