#pragma once

#include <string>
#include <utility>
#include <vector>

#include "core/study/study.h"
#include "core/values/result.h"

namespace core {

/// What keeps a study from being run, as it is found.
class Problems {
 public:
  void unless(bool is_fine, ErrorKind kind, std::string where, std::string what, std::string remedy) {
    if (!is_fine) list_.push_back({kind, std::move(what), std::move(where), std::move(remedy)});
  }
  void add(Error error) { list_.push_back(std::move(error)); }
  std::vector<Error> take() { return std::move(list_); }

 private:
  std::vector<Error> list_;
};

/// Is there anything but blanks in it?
[[nodiscard]] inline bool hasText(const std::string& text) {
  return text.find_first_not_of(" \t\n") != std::string::npos;
}

/// The numbers of a plan, whatever it is a plan of.
void checkPlan(Problems& problems, const Study& study);
/// What only one order of visits allows.
void checkOrder(Problems& problems, const Study& study);
/// Cases that were added later have rounds of their own, behind those of the others.
void checkSecondPart(Problems& problems, const Study& study);
/// How many passes the plan has, as a number that no plan overflows.
[[nodiscard]] double plannedPasses(const Study& study);

}  // namespace core
