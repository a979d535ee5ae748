#include "store/logs/log_blocks.h"

#include <algorithm>
#include <memory>

#include "store/files/regular_file.h"
#include "store/logs/plain_rows.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;

// A block and its numbers fit the second-level cache of one core.
constexpr std::size_t kBlock = std::size_t{1} << 19;
// Its last line ends behind it; most lines are shorter than this.
constexpr std::size_t kLine = 512;
// No log has a longer one; a file without any line end is none.
constexpr std::size_t kMostLine = std::size_t{1} << 23;
constexpr std::string_view kByteOrderMark = "\xEF\xBB\xBF";

Error tooLongLine(const std::string& name) {
  return {ErrorKind::Malformed, "a line has more than 8 MiB", name, "Write a line for each frame"};
}

}  // namespace

Error unreadableLog(const std::string& path) {
  return {ErrorKind::Missing, "the log cannot be read", path, "Check its name, and that you may read it"};
}

LogBlocks::LogBlocks(std::string name, std::size_t bytes, Read read)
    : name_(std::move(name)), bytes_(bytes), read_(std::move(read)) {}

LogBlocks LogBlocks::ofText(std::string_view text) {
  return {"the text", text.size(), [text](char* to, std::size_t bytes, std::size_t from) {
            const std::string_view part = text.substr(std::min(from, text.size()), bytes);
            std::copy(part.begin(), part.end(), to);
            return static_cast<std::ptrdiff_t>(part.size());
          }};
}

core::Result<LogBlocks> LogBlocks::ofFile(const std::string& path) {
  auto opened = RegularFile::open(path);
  if (!opened && opened.error().kind == ErrorKind::Malformed)
    return Error{ErrorKind::Malformed, "this is not a regular file", path, "Name the file that holds the frames"};
  if (!opened) return unreadableLog(path);
  const auto file = std::make_shared<const RegularFile>(*std::move(opened));
  return LogBlocks(path, static_cast<std::size_t>(file->size()),
                   [file](char* to, std::size_t bytes, std::size_t from) { return file->read(to, bytes, from); });
}

std::size_t LogBlocks::count() const { return (bytes_ + kBlock - 1) / kBlock; }

core::Result<std::string_view> LogBlocks::lines(std::size_t block, std::vector<char>& buffer) const {
  // A line begins behind a line end: one byte earlier tells whether the block begins with one.
  const std::size_t from = block == 0 ? 0 : block * kBlock - 1;
  const std::size_t own = (block + 1) * kBlock - 1 - from;  // behind a line end in these a line of the block begins
  std::size_t held = 0;
  for (std::size_t wanted = own + kLine;; wanted *= 2) {
    buffer.resize(kReadableBefore + wanted);
    char* const text = buffer.data() + kReadableBefore;
    const std::ptrdiff_t got = read_(text + held, wanted - held, from + held);
    if (got < 0)
      return Error{ErrorKind::Io, "the log cannot be read to its end", name_, "Check the disk; nothing was imported"};
    held += static_cast<std::size_t>(got);
    const std::string_view all(text, held);
    std::size_t begin = all.starts_with(kByteOrderMark) && block == 0 ? kByteOrderMark.size() : 0;
    if (block > 0) {
      begin = all.substr(0, own).find('\n');
      if (begin == std::string_view::npos) return std::string_view{};
      ++begin;
    }
    const std::size_t line_end = all.find('\n', own);
    if (line_end != std::string_view::npos) return all.substr(begin, line_end + 1 - begin);
    if (held < wanted || from + held >= bytes_) return all.substr(begin);  // the log ends here
    if (wanted > kBlock + kMostLine) return tooLongLine(name_);
  }
}

core::Result<std::string> LogBlocks::unendedLine() const {
  std::string line;
  for (std::size_t wanted = std::min(bytes_, kLine);; wanted = std::min(bytes_, 2 * wanted)) {
    line.resize(wanted);
    if (read_(line.data(), wanted, bytes_ - wanted) != static_cast<std::ptrdiff_t>(wanted))
      return Error{ErrorKind::Io, "the log cannot be read to its end", name_, "Check the disk; nothing was imported"};
    const std::size_t end = line.rfind('\n');
    if (end != std::string::npos) return line.substr(end + 1);
    if (wanted == bytes_) return line;
    if (wanted > kMostLine) return tooLongLine(name_);
  }
}

core::Status LogBlocks::endAtLastLine() {
  const auto unended = unendedLine();
  if (!unended) return unended.error();
  bytes_ -= unended->size();
  read_ = [read = read_, bytes = bytes_](char* to, std::size_t wanted, std::size_t from) {
    return read(to, std::min(wanted, bytes - std::min(from, bytes)), from);
  };
  return core::Done{};
}

}  // namespace store
