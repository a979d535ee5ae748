#include "session/study/approvals.h"

#include <fstream>
#include <set>

#include "session/user/user_files.h"

namespace session {

std::vector<Act> Approvals::missing(const std::vector<Act>& acts) const {
  std::set<std::string> approved;
  if (checkOwnFile(path_)) {
    std::ifstream file(path_);
    for (std::string line; std::getline(file, line);) approved.insert(line);
  }
  std::vector<Act> missing;
  for (const Act& act : acts)
    if (!approved.contains(act.key())) missing.push_back(act);
  return missing;
}

core::Status Approvals::approve(const std::vector<Act>& acts) {
  if (auto own = makeOwnFile(path_); !own) return own;
  const std::vector<Act> added = missing(acts);
  std::ofstream file(path_, std::ios::app);
  for (const Act& act : added) file << act.key() << '\n';
  file.flush();
  if (file) return core::Done{};
  return core::Error{core::ErrorKind::Io, "the approval cannot be kept", path_,
                     "Check that you may write there and that the disk is not full"};
}

}  // namespace session
