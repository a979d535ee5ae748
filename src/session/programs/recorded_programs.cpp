#include "session/programs/recorded_programs.h"

#include <elf.h>
#include <sys/statvfs.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <filesystem>
#include <fstream>

#include "bench/file_tree.h"
#include "bench/process_tree.h"
#include "recorder/ring_layout.h"

namespace session {
namespace {

namespace fs = std::filesystem;

// Nothing of a process that ends while it is being read: a stream would throw.
std::string textOf(const std::string& path) {
  const auto text = bench::FileTree("").read(path);
  return text ? *text : std::string();
}

bool has(const std::string& text, const char* part) { return text.find(part) != std::string::npos; }

// Pairs of a type and a value, of the process's own width.
template <class Entry>
bool isSecure(const std::string& vector) {
  for (std::size_t at = 0; at + sizeof(Entry) <= vector.size(); at += sizeof(Entry)) {
    Entry entry;
    std::memcpy(&entry, vector.data() + at, sizeof entry);
    if (entry.a_type == AT_SECURE) return entry.a_un.a_val != 0;
  }
  return false;
}

// Does a program's file ask for a loader?
template <class Header, class Segment>
bool asksForLoader(const std::string& head) {
  Header header;
  if (head.size() < sizeof header) return false;
  std::memcpy(&header, head.data(), sizeof header);
  for (std::size_t i = 0; i < header.e_phnum; ++i) {
    Segment segment;
    const std::size_t at = header.e_phoff + i * sizeof segment;
    if (at + sizeof segment > head.size()) return false;
    std::memcpy(&segment, head.data() + at, sizeof segment);
    if (segment.p_type == PT_INTERP) return true;
  }
  return false;
}

std::string headOf(const std::string& path) {
  std::string head(4096, '\0');
  std::ifstream file(path, std::ios::binary);
  file.read(head.data(), static_cast<std::streamsize>(head.size()));
  head.resize(static_cast<std::size_t>(file.gcount()));
  return head;
}

}  // namespace

// Nothing of one that is ending just now.
std::optional<RecordedPrograms::Program> RecordedPrograms::inspect(const std::string& process) {
  const std::string place = "/proc/" + process;
  Program program;
  // What another user's process keeps to itself, it keeps because it is one.
  if (::access((place + "/exe").c_str(), R_OK) != 0 && (errno == EACCES || errno == EPERM)) {
    program.is_secure = true;
    return program;
  }
  const std::string head = headOf(place + "/exe");
  if (head.empty()) return std::nullopt;
  program.is_32_bits = head.size() > EI_CLASS && head[EI_CLASS] == ELFCLASS32;
  program.is_static =
      !(program.is_32_bits ? asksForLoader<Elf32_Ehdr, Elf32_Phdr>(head) : asksForLoader<Elf64_Ehdr, Elf64_Phdr>(head));
  const std::string vector = textOf(place + "/auxv");
  program.is_secure = program.is_32_bits ? isSecure<Elf32_auxv_t>(vector) : isSecure<Elf64_auxv_t>(vector);
  program.has_variables = has(textOf(place + "/environ"), recorder::kFolderVariable);
  const std::string maps = textOf(place + "/maps");
  program.has_preload = has(maps, "libiron-lever-gl");
  program.has_layer = has(maps, "libiron-lever-vulkan");
  program.has_vulkan = has(maps, "libvulkan.so");
  program.has_gl = has(maps, "libGL.so") || has(maps, "libGLX.so") || has(maps, "libEGL.so");
  return program;
}

void RecordedPrograms::look() {
  constexpr int kMostLooks = 240;
  if (looks_++ >= kMostLooks) return;
  for (const pid_t process : bench::descendants()) {
    const std::string id = std::to_string(process);
    std::error_code code;
    std::string file = fs::read_symlink("/proc/" + id + "/exe", code).filename().string();
    if (code) {
      file = textOf("/proc/" + id + "/comm");
      if (!file.empty()) file.pop_back();
    }
    if (file.empty()) continue;
    if (const auto program = inspect(id)) programs_[file] = *program;
  }
}

std::string RecordedPrograms::reason(const std::string& folder) const {
  struct statvfs room {};
  constexpr std::uint64_t kRing = 4U << 20U;
  if (::statvfs(folder.c_str(), &room) == 0 && std::uint64_t{room.f_bavail} * room.f_frsize < kRing)
    return "there is no room in the shared memory of " + folder;
  const auto first = [&](auto&& holds) {
    for (const auto& [name, program] : programs_)
      if (holds(program)) return name;
    return std::string();
  };
  const auto said = [](const std::string& name, const char* why) { return name + " " + why; };
  if (const auto name = first([](const Program& p) { return p.is_secure; }); !name.empty())
    return said(name, "runs with the rights of another user, and its loader lets nothing in");
  if (const auto name = first([](const Program& p) { return p.has_vulkan && !p.has_layer; }); !name.empty())
    return said(name, "uses Vulkan with its layers disabled or a layer path of its own");
  if (const auto name = first([](const Program& p) { return !p.is_static && !p.has_variables; }); !name.empty())
    return said(name, "was started with a cleaned environment");
  if (const auto name = first([](const Program& p) { return p.is_32_bits && !p.has_preload; }); !name.empty())
    return said(name, "is a program of 32 bits, for which this recorder was not built");
  if (const auto name = first([](const Program& p) { return p.is_static; }); !name.empty())
    return said(name, "is linked statically: nothing can be loaded into it");
  if (const auto name = first([](const Program& p) { return p.has_gl || p.has_vulkan; }); !name.empty())
    return said(name, "loaded the libraries, but handed over no frame by a function that is recorded");
  return programs_.empty() ? "it ended before it could be looked at" : "none loaded a library of theirs";
}

}  // namespace session
