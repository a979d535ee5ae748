#include "bench/read_budget.h"

namespace bench {

using core::Error;
using core::ErrorKind;

core::Status BudgetedBench::spend(const std::string& path) const {
  if (stop_.stop_requested())
    return Error{ErrorKind::Busy, "reading was ended before its turn came", path, "Capture it again"};
  const bool is_late = std::chrono::steady_clock::now() - begun_ > budget_.time;
  if (++looks_ <= budget_.looks && bytes_ <= budget_.bytes && !is_late) return core::Done{};
  return Error{ErrorKind::Busy,
               is_late ? "the machine took too long before its turn came" : "there is more than any machine tells",
               path, "Name a folder that holds what one machine's proc and sys say"};
}

core::Result<std::string> BudgetedBench::readFile(const std::string& path) const {
  if (auto free = spend(path); !free) return free.error();
  auto text = bench_.readFile(path);
  if (text) bytes_ += text->size();
  return text;
}

core::Result<std::vector<std::string>> BudgetedBench::listFolder(const std::string& path) const {
  if (auto free = spend(path); !free) return free.error();
  auto names = bench_.listFolder(path);
  if (names)
    for (const std::string& name : *names) bytes_ += name.size();
  return names;
}

core::Result<std::string> BudgetedBench::realPath(const std::string& path) const {
  if (auto free = spend(path); !free) return free.error();
  return bench_.realPath(path);
}

core::Status BudgetedBench::writeFile(const std::string& path, const std::string& /*text*/) {
  return Error{ErrorKind::NotAllowed, "this machine is only read", path, "Set it by the sheet"};
}

std::unique_ptr<RunningCommand> BudgetedBench::start(const CommandOrder& /*order*/) { return nullptr; }

}  // namespace bench
