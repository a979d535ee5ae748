#include "bench/process_tree.h"

#include <signal.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <charconv>
#include <filesystem>
#include <fstream>
#include <map>
#include <optional>
#include <set>
#include <sstream>
#include <vector>

namespace bench {
namespace {

struct Process {
  pid_t parent = 0;
  pid_t group = 0;
  unsigned long long began = 0;
  unsigned long long ticks = 0;  ///< used by it, and by its children that have ended
};

// The leaders of the trees that are open at this moment; one thread starts all commands.
std::set<pid_t>& openLeaders() {
  static std::set<pid_t> leaders;
  return leaders;
}

// Fields 4, 5, 14 to 17 and 22 of /proc/PID/stat; the name in field 2 may hold blanks and brackets.
std::optional<Process> processOf(const std::string& id) {
  std::ifstream file("/proc/" + id + "/stat");
  std::string line;
  std::getline(file, line);
  const auto name_end = line.rfind(')');
  if (name_end == std::string::npos) return std::nullopt;
  std::istringstream fields(line.substr(name_end + 1));
  std::vector<std::string> words;
  for (std::string word; fields >> word && words.size() < 20;) words.push_back(word);
  constexpr std::size_t kParent = 1;
  constexpr std::size_t kGroup = 2;
  constexpr std::size_t kUserTime = 11;  // then of the system, and both of its children
  constexpr std::size_t kBegan = 19;
  if (words.size() <= kBegan) return std::nullopt;
  const auto number = [&]<class T>(std::size_t at, T& value) {
    std::from_chars(words[at].data(), words[at].data() + words[at].size(), value);
  };
  Process process;
  number(kParent, process.parent);
  number(kGroup, process.group);
  number(kBegan, process.began);
  for (std::size_t at = kUserTime; at < kUserTime + 4; ++at) {
    unsigned long long ticks = 0;
    number(at, ticks);
    process.ticks += ticks;
  }
  return process;
}

std::map<pid_t, Process> allProcesses() {
  std::map<pid_t, Process> all;
  std::error_code code;
  for (const auto& entry : std::filesystem::directory_iterator("/proc", code)) {
    const std::string name = entry.path().filename().string();
    pid_t id = 0;
    const auto [end, error] = std::from_chars(name.data(), name.data() + name.size(), id);
    if (error != std::errc() || end != name.data() + name.size()) continue;
    if (const auto process = processOf(name)) all[id] = *process;
  }
  return all;
}

bool isBelow(const std::map<pid_t, Process>& all, pid_t process, pid_t ancestor) {
  constexpr int kMostSteps = 1000;
  for (int step = 0; step < kMostSteps; ++step) {
    const auto found = all.find(process);
    if (found == all.end()) return false;
    if (found->second.parent == ancestor) return true;
    process = found->second.parent;
  }
  return false;
}

}  // namespace

void adoptOrphans() {
  static const bool is_done = ::prctl(PR_SET_CHILD_SUBREAPER, 1) == 0;
  (void)is_done;
}

std::vector<pid_t> descendants() {
  std::vector<pid_t> found;
  const auto all = allProcesses();
  for (const auto& [id, process] : all)
    if (isBelow(all, id, ::getpid())) found.push_back(id);
  return found;
}

void ProcessTree::open(pid_t leader) {
  close();
  leader_ = leader;
  const auto found = processOf(std::to_string(leader));
  began_ = found ? found->began : 0;
  openLeaders().insert(leader);
}

void ProcessTree::close() { openLeaders().erase(leader_); }

std::vector<pid_t> ProcessTree::members() const {
  std::vector<pid_t> found;
  if (began_ == 0) return found;
  const auto all = allProcesses();
  const auto isOf = [&](const std::pair<const pid_t, Process>& one, pid_t leader) {
    return one.first == leader || one.second.group == leader || isBelow(all, one.first, leader);
  };
  const auto isAnothers = [&](const std::pair<const pid_t, Process>& one) {
    return !isOf(one, leader_) && std::any_of(openLeaders().begin(), openLeaders().end(),
                                              [&](pid_t leader) { return leader != leader_ && isOf(one, leader); });
  };
  for (const auto& one : all) {
    if (one.first == leader_ || one.second.began < began_ || !isBelow(all, one.first, ::getpid())) continue;
    if (!isAnothers(one)) found.push_back(one.first);
  }
  return found;
}

const std::vector<pid_t>& ProcessTree::lately() const {
  constexpr std::chrono::seconds kStale{5};
  const auto now = std::chrono::steady_clock::now();
  if (looked_ && now - *looked_ < kStale) return lately_;
  looked_ = now;
  lately_ = members();
  if (leader_ > 0) lately_.push_back(leader_);
  return lately_;
}

bool ProcessTree::hasMembers() const {
  // Of those that are not our own children, waitpid knows nothing.
  const auto isOver = [](pid_t id) { return ::waitpid(id, nullptr, WNOHANG) == id; };
  bool has_found = false;
  for (const pid_t id : members()) has_found = !isOver(id) || has_found;
  return has_found;
}

void ProcessTree::endMembers() const {
  // One that is being ended may have begun another meanwhile.
  constexpr int kMostRounds = 20;
  for (int round = 0; round < kMostRounds; ++round) {
    const std::vector<pid_t> left = members();
    for (const pid_t id : left) {
      ::kill(id, SIGKILL);
      ::waitpid(id, nullptr, WNOHANG);
    }
    if (left.empty()) return;
    ::usleep(2000);
  }
}

double ProcessTree::processorSeconds() const {
  if (leader_ == 0) return 0;
  unsigned long long ticks = 0;
  for (const pid_t id : lately())
    if (const auto process = processOf(std::to_string(id))) ticks += process->ticks;
  return static_cast<double>(ticks) / static_cast<double>(::sysconf(_SC_CLK_TCK));
}

}  // namespace bench
