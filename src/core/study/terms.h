#pragma once

#include <array>
#include <string>
#include <string_view>

namespace core {

/// A word of the program's, explained in one line: where it first stands on a screen, and on the help's page of words.
struct Term {
  std::string_view word;
  std::string_view meaning;
};

inline constexpr std::array kTerms{
    Term{"level", "one setting of what is changed: 4800 MT/s, Gen 4, off"},
    Term{"flip", "everything that brings the bench to a level: a firmware setting, a restart, a swap"},
    Term{"case", "a workload with a preset: what is run again and again"},
    Term{"pass", "one run of a case, which gives one number"},
    Term{"visit", "the bench is set to one level, then every case runs"},
    Term{"round", "one visit at each level, in a drawn order"},
    Term{"warm-up", "a first pass of a visit that is recorded and not counted"},
    Term{"threshold", "the smallest change worth acting on"},
    Term{"control", "a case that should not move: if it does, something else moved"},
    Term{"baseline", "the level that the others are compared with"},
};

/// "flip: everything that …" of each word, a line for each. A word that is none of kTerms is left out.
template <typename... Words>
[[nodiscard]] std::string termsText(const Words&... words) {
  std::string text;
  for (const std::string_view word : {std::string_view(words)...})
    for (const Term& one : kTerms)
      if (one.word == word) text.append(text.empty() ? "" : "\n").append(one.word).append(": ").append(one.meaning);
  return text;
}

}  // namespace core
