#include "session/programs/frame_recorder.h"

#include <fcntl.h>
#include <sys/resource.h>
#include <unistd.h>

#include <QCoreApplication>
#include <algorithm>
#include <cstdlib>
#include <filesystem>

#include <fmt/format.h>

#include "core/values/shown_text.h"
#include "recorder/ring_layout.h"
#include "session/user/scratch.h"

namespace session {
namespace {

namespace fs = std::filesystem;
using core::Error;
using core::ErrorKind;
using recorder::RecordedFrame;

constexpr const char* kLayer = "VK_LAYER_IRON_LEVER_frames";
constexpr const char* kPreload = "libiron-lever-gl.so";
constexpr const char* kManifest = "vulkan_layer.json";

std::string guestFolder() {
  return (QCoreApplication::applicationDirPath() + QStringLiteral("/recorder")).toStdString();
}

constexpr std::size_t kRingBytes =
    sizeof(recorder::RingHeader) + recorder::RingHeader::kCapacity * sizeof(recorder::FrameRecord);

// A ring is of one size; a file that grows while it is read is none.
std::vector<std::byte> bytesOf(const std::string& path) {
  std::vector<std::byte> bytes(kRingBytes + 1);
  const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
  if (file < 0) return {};
  const ssize_t got = ::pread(file, bytes.data(), bytes.size(), 0);
  ::close(file);
  bytes.resize(static_cast<std::size_t>(std::max<ssize_t>(0, got)));
  return bytes;
}

// What becomes known of a frame only after it was handed over.
void takeLate(const RecordedFrame& now, RecordedFrame& known) {
  if (now.shown != 0) {
    known.shown = now.shown;
    known.refresh = now.refresh;
  }
  if (now.device_time != 0) known.device_time = now.device_time;
}

}  // namespace

std::string FrameRecorder::Stream::title() const {
  return fmt::format("{} (process {}){}, {}", presentation.program, process,
                     window_title.empty() ? "" : ", window \"" + core::shownText(window_title) + "\"",
                     presentation.sentence());
}

FrameRecorder::FrameRecorder(Noted noted) : noted_(noted), folder_(makeSharedScratch()) {
  if (!folder_) return;
  linkGuests();
  keepSpares();
}

core::Status FrameRecorder::check() {
  for (const char* guest : {kPreload, kManifest}) {
    const std::string path = guestFolder() + "/" + guest;
    std::error_code code;
    if (!fs::exists(path, code))
      return Error{ErrorKind::Missing, "what records frames is not there", path, "Install Iron Lever again"};
  }
  if (!makeSharedScratch())
    return Error{ErrorKind::Missing, "there is no shared memory to record into", "/dev/shm",
                 "Mount it, or set XDG_RUNTIME_DIR to a folder in memory"};
  return core::Done{};
}

std::string FrameRecorder::ringFolder() const { return folder_ ? folder_->path().toStdString() : std::string(); }

// Lists of paths are parted by colons and blanks, which an install path may hold: the programs get links from a folder
// whose path holds none. The loader puts the folder of a program's own libraries, which says its bits, for "$LIB".
void FrameRecorder::linkGuests() const {
  const fs::path folder = ringFolder();
  const auto link = [&](const std::string& guest, const fs::path& place) {
    std::error_code code;
    if (!fs::exists(guestFolder() + "/" + guest, code)) return;
    fs::create_directories((folder / place).parent_path(), code);
    fs::create_symlink(guestFolder() + "/" + guest, folder / place, code);
  };
  for (const char* lib : {"lib/x86_64-linux-gnu", "lib/aarch64-linux-gnu", "lib64"})
    link(kPreload, fs::path(lib) / kPreload);
  for (const char* lib : {"lib/i386-linux-gnu", "lib32", "lib"})
    link("libiron-lever-gl-32.so", fs::path(lib) / kPreload);
  for (const char* name : {kManifest, "libiron-lever-vulkan.so", "vulkan_layer_32.json", "libiron-lever-vulkan-32.so"})
    link(name, fs::path("vulkan") / name);
}

// Those that were taken are made again. Without room, or under a limit of our own, there are none.
void FrameRecorder::keepSpares() const {
  rlimit most{};
  if (::getrlimit(RLIMIT_FSIZE, &most) == 0 && most.rlim_cur < kRingBytes) return;
  for (int i = 0; i < recorder::kSpareRings; ++i) {
    const std::string path = fmt::format("{}/{}{}", ringFolder(), recorder::kSpareRing, i);
    const int file = ::open(path.c_str(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0600);
    if (file < 0) continue;
    if (::posix_fallocate(file, 0, static_cast<off_t>(kRingBytes)) != 0) ::unlink(path.c_str());
    ::close(file);
  }
}

FrameRecorder::Environment FrameRecorder::environment(const Environment& given) const {
  Environment added;
  const auto before = [&](const char* name) -> std::string {
    const auto set = std::find_if(given.begin(), given.end(), [&](const auto& one) { return one.first == name; });
    const char* inherited = std::getenv(name);
    return set != given.end() ? set->second : inherited != nullptr ? inherited : "";
  };
  const auto append = [&](const char* name, const std::string& value) {
    const std::string old = before(name);
    added.emplace_back(name, old.empty() ? value : old + ":" + value);
  };
  append("VK_ADD_LAYER_PATH", ringFolder() + "/vulkan");
  if (!before("VK_LAYER_PATH").empty())
    append("VK_LAYER_PATH", ringFolder() + "/vulkan");  // it makes the other one void
  append("VK_INSTANCE_LAYERS", kLayer);
  append("LD_PRELOAD", ringFolder() + "/$LIB/" + kPreload);
  added.emplace_back(recorder::kFolderVariable, ringFolder());
  std::vector<std::string> noted;
  if (noted_.processor_time) noted.emplace_back(recorder::kProcessorTime);
  if (noted_.shown_time) noted.emplace_back(recorder::kShownTime);
  if (noted_.device_time) noted.emplace_back(recorder::kDeviceTime);
  const std::string said = before(recorder::kNotedVariable);
  added.emplace_back(recorder::kNotedVariable, said.empty() ? fmt::format("{}", fmt::join(noted, ",")) : said);
  return added;
}

void FrameRecorder::look() {
  std::error_code code;
  for (auto entry = fs::directory_iterator(ringFolder(), code); !code && entry != fs::end(entry);
       entry.increment(code)) {
    const fs::path& path = entry->path();
    if (path.extension() == ".ring") readRing(path.string(), streams_[path.filename().string()]);
  }
  keepSpares();
  const bool has_shown = counted({}) != nullptr;
  if (!has_shown) programs_.look();
}

int FrameRecorder::lookAgainMs() const {
  constexpr int kSoon = 50;
  constexpr int kLater = 250;
  return counted({}) == nullptr ? kSoon : kLater;
}

void FrameRecorder::readRing(const std::string& path, Stream& stream) {
  if (stream.error) return;
  // What comes late is read once more.
  constexpr std::uint64_t kLate = 1024;
  const std::uint64_t again = stream.read - std::min(stream.read, kLate);
  const auto content = recorder::parseRing(bytesOf(path), again);
  if (!content) {
    stream.error = content.error();
    return;
  }
  stream.presentation = content->presenter;
  stream.process = content->process;
  stream.x_window = content->x_window;
  if (content->first > stream.read) stream.lost += content->first - stream.read;
  for (std::size_t i = 0; i < content->frames.size(); ++i) {
    const std::uint64_t number = content->first + i;
    const std::size_t at = number - stream.lost;
    if (number >= stream.read)
      stream.frames.push_back(content->frames[i]);
    else if (stream.lost == 0)
      takeLate(content->frames[i], stream.frames[at]);
  }
  stream.read = content->written;
  if (noted_.shown_time && stream.x_window != 0 && !content->x_display.empty()) readShown(content->x_display, stream);
}

void FrameRecorder::readShown(const std::string& display, Stream& stream) {
  const auto [found, is_new] = displays_.try_emplace(display);
  if (is_new) found->second = recorder::XShown::on(display);
  recorder::XShown* shown = found->second.get();
  if (shown == nullptr) return;
  const auto window = static_cast<std::uint32_t>(stream.x_window);
  if (!stream.is_watched && !(stream.is_watched = shown->watch(window))) return;
  shown->look();
  recorder::XShown::Window said = shown->take(window);
  if (!said.title.empty()) stream.window_title = said.title;
  if (said.width > 0) {
    stream.presentation.width = said.width;
    stream.presentation.height = said.height;
  }
  stream.pictures.insert(stream.pictures.end(), said.pictures.begin(), said.pictures.end());
  if (stream.lost == 0) stream.unfit_shown += recorder::enterShown(stream.pictures, stream.frames);
}

std::vector<const FrameRecorder::Stream*> FrameRecorder::streams() const {
  std::vector<const Stream*> all;
  for (const auto& [name, stream] : streams_)
    if (!stream.frames.empty() || stream.error) all.push_back(&stream);
  std::stable_sort(all.begin(), all.end(),
                   [](const Stream* a, const Stream* b) { return a->frames.size() > b->frames.size(); });
  return all;
}

std::span<const RecordedFrame> FrameRecorder::within(const Stream& stream, const Span& span) {
  const std::vector<RecordedFrame>& frames = stream.frames;
  const auto begin = std::lower_bound(frames.begin(), frames.end(), span.from,
                                      [](const RecordedFrame& f, std::int64_t ns) { return f.handed_over < ns; });
  const auto end = std::upper_bound(begin, frames.end(), span.to,
                                    [](std::int64_t ns, const RecordedFrame& f) { return ns < f.handed_over; });
  return {begin, end};
}

const FrameRecorder::Stream* FrameRecorder::counted(const Span& span, const std::string& name) const {
  const Stream* most = nullptr;
  std::size_t most_frames = 0;
  for (const auto& [ring, stream] : streams_) {
    if (!name.empty() && stream.presentation.program != name && stream.window_title != name) continue;
    const std::size_t frames = within(stream, span).size();
    if (frames <= most_frames) continue;
    most = &stream;
    most_frames = frames;
  }
  return most;
}

core::Result<std::vector<RecordedFrame>> FrameRecorder::frames(const Span& span, const std::string& name) const {
  const Stream* stream = counted(span, name);
  if (stream == nullptr && !name.empty() && counted(span) != nullptr)
    return Error{ErrorKind::TooFew, "\"" + name + "\" showed no frames; others did: " + counted(span)->title(),
                 "recorded frames", "Correct the name of the program or window that counts"};
  if (stream == nullptr)
    return Error{ErrorKind::TooFew,
                 "no program showed frames through Vulkan or OpenGL: " + programs_.reason(ringFolder()),
                 "recorded frames", "See docs/recording.md for what can be recorded"};
  if (stream->error) return *stream->error;
  if (stream->lost > 0)
    return Error{ErrorKind::TooFew, fmt::format("{} frames were shown faster than they could be taken", stream->lost),
                 "recorded frames", "Limit the frame rate, or let the program write a frame log"};
  const auto frames = within(*stream, span);
  if (frames.size() < 2)
    return Error{ErrorKind::TooFew, "only one frame was handed over", stream->title(), "Let it run for longer"};
  return std::vector<RecordedFrame>(frames.begin(), frames.end());
}

std::vector<double> frameMs(std::span<const RecordedFrame> frames) {
  constexpr double kNsPerMs = 1e6;
  std::vector<double> ms;
  for (std::size_t i = 1; i < frames.size(); ++i)
    ms.push_back(static_cast<double>(std::max<std::int64_t>(1, frames[i].handed_over - frames[i - 1].handed_over)) /
                 kNsPerMs);
  return ms;
}

}  // namespace session
