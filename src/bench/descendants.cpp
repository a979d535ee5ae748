#include "bench/descendants.h"

#include <signal.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <unistd.h>

#include <charconv>
#include <filesystem>
#include <fstream>
#include <map>
#include <optional>
#include <sstream>
#include <vector>

namespace bench {
namespace {

struct Process {
  pid_t parent = 0;
  unsigned long long began = 0;
};

// Fields 4 and 22 of /proc/PID/stat; the name in field 2 may hold blanks and brackets.
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
  constexpr std::size_t kBegan = 19;
  if (words.size() <= kBegan) return std::nullopt;
  Process process;
  std::from_chars(words[kParent].data(), words[kParent].data() + words[kParent].size(), process.parent);
  std::from_chars(words[kBegan].data(), words[kBegan].data() + words[kBegan].size(), process.began);
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

unsigned long long beganAt(pid_t process) {
  const auto found = processOf(std::to_string(process));
  return found ? found->began : 0;
}

std::vector<pid_t> descendants(unsigned long long since_ticks) {
  std::vector<pid_t> found;
  const auto all = allProcesses();
  for (const auto& [id, process] : all)
    if (process.began >= since_ticks && isBelow(all, id, ::getpid())) found.push_back(id);
  return found;
}

bool hasDescendants(unsigned long long since_ticks) {
  // Of those that are not our own children, waitpid knows nothing.
  const auto isOver = [](pid_t id) { return ::waitpid(id, nullptr, WNOHANG) == id; };
  bool has_found = false;
  for (const pid_t id : descendants(since_ticks)) has_found = !isOver(id) || has_found;
  return has_found;
}

void endDescendants(unsigned long long since_ticks, pid_t spared) {
  // One that is being ended may have begun another meanwhile.
  constexpr int kMostRounds = 20;
  for (int round = 0; round < kMostRounds; ++round) {
    std::vector<pid_t> left = descendants(since_ticks);
    std::erase(left, spared);
    for (const pid_t id : left) {
      ::kill(id, SIGKILL);
      ::waitpid(id, nullptr, WNOHANG);
    }
    if (left.empty()) return;
    ::usleep(2000);
  }
}

}  // namespace bench
