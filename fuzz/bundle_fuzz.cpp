// Sealed bundles from anywhere: the zip as it lies there, its manifest, and files held against each other. Nothing is
// read beyond what an entry says that it holds.
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <string>

#include "fuzz/bytes.h"
#include "session/bundle/bundle_manifest.h"
#include "session/bundle/number_differences.h"
#include "session/bundle/sealed_zip.h"

using fuzz::demand;

namespace {

/// A folder in memory, of this process; with one small sealed zip to begin from.
struct Place {
  std::string folder = "/dev/shm/bundle-fuzz-" + std::to_string(::getpid());
  std::string path = folder + "/zip";
  std::string whole;

  Place() {
    std::filesystem::create_directories(folder);
    const auto write = [](const std::string& to, const std::string& text) {
      std::ofstream(to, std::ios::binary) << text;
    };
    write(folder + "/a", "1.5 %\n");
    write(folder + "/b", std::string(300, 'x'));
    demand(session::writeSealedZip(path, {{"page.html", folder + "/a"}, {"logs/1.txt", folder + "/b"}}).ok());
    std::ifstream file(path, std::ios::binary);
    whole.assign(std::istreambuf_iterator<char>(file), {});
  }
  ~Place() { std::filesystem::remove_all(folder); }
};

void zipOf(const std::string& bytes, const Place& place) {
  std::ofstream(place.path, std::ios::binary | std::ios::trunc) << bytes;
  const auto zip = session::SealedZip::open(place.path);
  if (!zip) return demand(!zip.error().what.empty());
  (void)zip->sum();
  for (std::size_t i = 0; i < zip->entries().size(); ++i) {
    if (!zip->entries()[i].refused.empty() || zip->entries()[i].size > (1 << 20)) continue;
    std::uint64_t got = 0;
    (void)zip->read(i, [&](std::string_view piece) -> core::Status {
      got += piece.size();
      return core::Done{};
    });
    demand(got <= zip->entries()[i].size);
  }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  static const Place place;
  fuzz::Bytes bytes(data, size);
  switch (bytes.take() % 4) {
    case 0: {
      std::string changed = place.whole;
      while (!bytes.isEmpty()) {
        const std::size_t at = bytes.number(2) % changed.size();
        changed[at] = static_cast<char>(bytes.take());
      }
      zipOf(changed, place);
      break;
    }
    case 1: zipOf(std::string(reinterpret_cast<const char*>(data), size), place); break;
    case 2: {
      static const nlohmann::json manifest = nlohmann::json::parse(session::manifestText(
          {{"1.0", "2026-12-01", {}}, {{"page.html", std::string(64, 'a'), 6}}, {{"serials", 2}}}));
      const auto read = session::manifestFrom(
          fuzz::changed(manifest, bytes).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace));
      if (read) demand(session::manifestFrom(session::manifestText(*read)).ok());
      break;
    }
    default: {
      const std::string one = bytes.text();
      const std::string other = bytes.text();
      std::vector<session::BundleDifference> differences;
      session::addDifferences("page", one, one, 5, differences);
      demand(differences.empty());
      session::addDifferences("page", one, other, 5, differences);
      demand(differences.size() <= 5);
    }
  }
  return 0;
}
