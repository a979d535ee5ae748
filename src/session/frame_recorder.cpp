#include "session/frame_recorder.h"

#include <QCoreApplication>
#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <span>

#include <fmt/format.h>

#include "recorder/frame_ring.h"
#include "recorder/ring_layout.h"

namespace session {
namespace {

namespace fs = std::filesystem;
using core::Error;
using core::ErrorKind;

constexpr const char* kLayer = "VK_LAYER_IRON_LEVER_frames";
constexpr const char* kPreload = "libiron-lever-gl.so";
constexpr const char* kVulkan = "libiron-lever-vulkan.so";

std::string guestFolder() {
  return (QCoreApplication::applicationDirPath() + QStringLiteral("/recorder")).toStdString();
}

std::vector<std::byte> bytesOf(const fs::path& path) {
  std::ifstream file(path, std::ios::binary);
  std::error_code code;
  const auto size = fs::file_size(path, code);
  std::vector<std::byte> bytes(file && !code ? size : 0);
  file.read(reinterpret_cast<char*>(bytes.data()), static_cast<std::streamsize>(bytes.size()));
  return bytes;
}

}  // namespace

FrameRecorder::FrameRecorder(std::string folder) : folder_(std::move(folder)) {
  std::error_code code;
  fs::remove_all(folder_, code);
  fs::create_directories(folder_, code);
}

core::Status FrameRecorder::check() {
  for (const char* guest : {kPreload, kVulkan}) {
    const std::string path = guestFolder() + "/" + guest;
    std::error_code code;
    if (!fs::exists(path, code))
      return Error{ErrorKind::Missing, "what records frames is not there", path, "Install Iron Lever again"};
  }
  return core::Done{};
}

FrameRecorder::Environment FrameRecorder::environment(const Environment& given) const {
  Environment added;
  const auto append = [&](const char* name, const std::string& value) {
    const auto set = std::find_if(given.begin(), given.end(), [&](const auto& one) { return one.first == name; });
    const char* inherited = std::getenv(name);
    const std::string before = set != given.end() ? set->second : inherited != nullptr ? inherited : "";
    added.emplace_back(name, before.empty() ? value : before + ":" + value);
  };
  append("VK_ADD_LAYER_PATH", guestFolder());
  append("VK_INSTANCE_LAYERS", kLayer);
  append("LD_PRELOAD", guestFolder() + "/" + kPreload);
  added.emplace_back(recorder::kFolderVariable, folder_);
  return added;
}

void FrameRecorder::look() {
  std::error_code code;
  for (auto entry = fs::directory_iterator(folder_, code); !code && entry != fs::end(entry); entry.increment(code)) {
    const fs::path& path = entry->path();
    if (path.extension() != ".ring") continue;
    Window& window = windows_[path.filename().string()];
    if (window.error) continue;
    const auto content = recorder::parseRing(bytesOf(path), window.written);
    if (!content) {
      window.error = content.error();
      continue;
    }
    window.presentation = content->presenter;
    window.written = content->written;
    window.lost += content->lost;
    window.at_ns.insert(window.at_ns.end(), content->at_ns.begin(), content->at_ns.end());
  }
}

const FrameRecorder::Window* FrameRecorder::busiest() const {
  const auto most = std::max_element(windows_.begin(), windows_.end(),
                                     [](const auto& a, const auto& b) { return a.second.written < b.second.written; });
  return most == windows_.end() || most->second.written == 0 ? nullptr : &most->second;
}

core::Result<std::vector<double>> FrameRecorder::frameMs() const {
  const Window* window = busiest();
  if (window == nullptr || window->written < 2)
    return Error{ErrorKind::TooFew, "no program showed frames through Vulkan or OpenGL", "recorded frames",
                 "Check that it opens a window and draws; a program of 32 bits cannot be recorded"};
  if (window->error) return *window->error;
  if (window->lost > 0)
    return Error{ErrorKind::TooFew, fmt::format("{} frames were shown faster than they could be taken", window->lost),
                 "recorded frames", "Limit the frame rate, or let the program write a frame log"};
  std::vector<double> frame_ms;
  constexpr double kNsPerMs = 1e6;
  for (std::size_t i = 1; i < window->at_ns.size(); ++i)
    frame_ms.push_back(static_cast<double>(std::max<std::int64_t>(1, window->at_ns[i] - window->at_ns[i - 1])) /
                       kNsPerMs);
  return frame_ms;
}

}  // namespace session
