#include "core/study/name_pattern.h"

#include <cctype>
#include <span>
#include <vector>

namespace core {
namespace {

// Letters and digits only, in small letters: "Ring pass, 4K" and "ring-pass_4k" are the same name.
std::string bare(std::string_view text) {
  std::string result;
  for (const char c : text)
    if (std::isalnum(static_cast<unsigned char>(c)) != 0 || static_cast<unsigned char>(c) >= 0x80)
      result += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  return result;
}

// One part of a pattern: a fixed text, or a place with the texts that may stand there.
struct Part {
  enum class Kind { Text, Case, Level, Any } kind = Kind::Text;
  std::string text;
};

std::vector<Part> partsOf(std::string_view pattern) {
  std::vector<Part> parts;
  while (!pattern.empty()) {
    const auto open = pattern.find('{');
    if (const std::string text = bare(pattern.substr(0, open)); !text.empty())
      parts.push_back({Part::Kind::Text, text});
    if (open == std::string_view::npos) break;
    const auto close = pattern.find('}', open);
    const std::string_view word = pattern.substr(open + 1, close == std::string_view::npos ? close : close - open - 1);
    parts.push_back({word == "case" ? Part::Kind::Case : word == "level" ? Part::Kind::Level : Part::Kind::Any, ""});
    pattern = close == std::string_view::npos ? std::string_view{} : pattern.substr(close + 1);
  }
  return parts;
}

// Tries every way in which the rest of a name can fit the rest of a pattern; names are short.
class Matcher {
 public:
  explicit Matcher(const Study& study) : study_(study) {}

  [[nodiscard]] bool fits(std::string_view name, std::span<const Part> parts) {
    if (parts.empty()) return name.empty();
    const Part& part = parts.front();
    const auto rest = parts.subspan(1);
    const auto after = [&](const std::string& text) {
      return !text.empty() && name.starts_with(text) && fits(name.substr(text.size()), rest);
    };
    switch (part.kind) {
      case Part::Kind::Text: return after(part.text);
      case Part::Kind::Level:
        for (const ConfigurationId configuration : configurationsOf(study_))
          if (after(bare(study_.nameOf(configuration)))) return found_side = configuration, true;
        return false;
      case Part::Kind::Case:
        for (std::size_t i = 0; i < study_.cases.size(); ++i)
          if (after(bare(study_.cases[i].title())) || after(bare(study_.cases[i].workload)))
            return found_case = i, true;
        return false;
      case Part::Kind::Any:
        for (std::size_t taken = 0; taken <= name.size(); ++taken)
          if (fits(name.substr(taken), rest)) return true;
        return false;
    }
    return false;
  }
  std::optional<std::size_t> found_case;
  std::optional<ConfigurationId> found_side;

 private:
  const Study& study_;
};

}  // namespace

Result<NamedPass> readName(std::string_view name, std::string_view pattern, const Study& study) {
  if (pattern.find("{level}") == std::string_view::npos)
    return Error{ErrorKind::Malformed, "the pattern does not say where the level stands", std::string(pattern),
                 "Put {level} there, for example {case}_{level}_{any}"};
  const auto dot = name.rfind('.');
  const std::string stem = bare(dot == std::string_view::npos ? name : name.substr(0, dot));
  Matcher matcher(study);
  if (!matcher.fits(stem, partsOf(pattern)))
    return Error{ErrorKind::Malformed, "the name does not fit the pattern " + std::string(pattern), std::string(name),
                 "Name the file so, change the pattern, or choose case and level by hand"};
  const bool names_case = matcher.found_case.has_value();
  if (!names_case && study.cases.size() != 1)
    return Error{ErrorKind::Missing, "the name does not say which case it is", std::string(name),
                 "Put {case} into the pattern, or choose the case by hand"};
  return NamedPass{matcher.found_case.value_or(0), *matcher.found_side};
}

}  // namespace core
