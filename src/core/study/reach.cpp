#include "core/study/reach.h"

#include <algorithm>

namespace core {
namespace {

constexpr std::string_view kSsh = "ssh:";
constexpr std::string_view kFolder = "folder:";

// What begins with a hyphen is an option to ssh, and what has blanks, or is no letter at all, is no name of a host.
bool isName(std::string_view name) {
  constexpr std::size_t kLongest = 255;
  return !name.empty() && name.size() <= kLongest && name.front() != '-' &&
         std::all_of(name.begin(), name.end(), [](char c) { return c > ' ' && c < 127 && c != '\'' && c != '"'; });
}

}  // namespace

Result<Reach> reachFrom(std::string_view text) {
  if (text == "here") return Reach{};
  if (text == "elsewhere") return Reach{Reach::By::Elsewhere};
  if (text.starts_with(kFolder) && text.size() > kFolder.size())
    return Reach{Reach::By::Folder, std::string(text.substr(kFolder.size()))};
  if (text.starts_with(kSsh)) {
    const std::string_view name = text.substr(kSsh.size());
    if (isName(name)) return Reach{Reach::By::Ssh, std::string(name)};
    return Error{ErrorKind::Malformed, "this is not a name that ssh takes for a bench", "reach",
                 "Write a host, user@host, or a name of ssh's configuration, behind ssh:"};
  }
  return Error{ErrorKind::Malformed, "'" + std::string(text) + "' is not a way to reach a bench", "reach",
               "Write here, ssh:NAME, folder:PATH or elsewhere"};
}

std::string reachText(const Reach& reach) {
  switch (reach.by) {
    case Reach::By::Here: return "here";
    case Reach::By::Ssh: return std::string(kSsh) + reach.to;
    case Reach::By::Folder: return std::string(kFolder) + reach.to;
    case Reach::By::Elsewhere: return "elsewhere";
  }
  return {};
}

Reach reachOf(const Study& study) {
  if (!study.ssh_name.empty()) return {Reach::By::Ssh, study.ssh_name};
  if (!study.machine.empty()) return {Reach::By::Folder, study.machine};
  return {isBenchHere(study) ? Reach::By::Here : Reach::By::Elsewhere};
}

void setReach(Study& study, const Reach& reach) {
  study.ssh_name = reach.by == Reach::By::Ssh ? reach.to : std::string();
  study.machine = reach.by == Reach::By::Folder ? reach.to : std::string();
  study.is_this_machine.reset();
  if (reach.by == Reach::By::Here) study.is_this_machine = true;
  if (reach.by == Reach::By::Elsewhere) study.is_this_machine = false;
}

}  // namespace core
