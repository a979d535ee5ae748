// What a cabinet of 10,000 studies takes, 100 of them damaged: the first look through the folders, the list, a search.
#include <sys/resource.h>

#include <chrono>
#include <cstdio>
#include <filesystem>
#include <functional>
#include <string>

#include "session/cabinet/cabinet.h"
#include "support/filed_study.h"
#include "support/test_folder.h"

namespace {

constexpr int kStudies = 10'000;
constexpr int kEachDamaged = 100;
constexpr std::int64_t kBegin_ms = 1'700'000'000'000;
constexpr std::int64_t kHour_ms = 3'600'000;

double secondsOf(const std::function<void()>& work) {
  const auto begin = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

double mostMemory_MiB() {
  rusage usage{};
  ::getrusage(RUSAGE_SELF, &usage);
  return static_cast<double>(usage.ru_maxrss) / 1024;
}

// One is measured, the others are copies of it: what reading takes is the same.
void makeStudies(const support::TestFolder& folder) {
  std::filesystem::create_directories(folder / "studies");
  support::RecordedStudy recorded{support::roundsOf(6, 2)};
  recorded.recordRates({60, 63});
  (void)support::fileStudy(folder / "first.ironlever", recorded, kBegin_ms);
  for (int i = 0; i < kStudies; ++i) {
    const std::string path = folder / ("studies/study " + std::to_string(i) + ".ironlever");
    if (i % kEachDamaged == 0)
      folder.write("studies/study " + std::to_string(i) + ".ironlever", "damaged");
    else
      std::filesystem::copy_file(folder / "first.ironlever", path);
  }
}

}  // namespace

int main() {
  const support::TestFolder folder;
  makeStudies(folder);
  session::Cabinet cabinet(session::UserFiles::in(folder / "user"));
  if (!cabinet.add(folder / "studies")) return 1;
  std::printf("first look through the folders  %.1f s\n", secondsOf([&] { (void)cabinet.refresh(); }));
  std::printf("the same, nothing has changed   %.3f s\n", secondsOf([&] { (void)cabinet.refresh(); }));
  std::size_t listed = 0;
  std::printf("list                            %.3f s\n", secondsOf([&] { listed = cabinet.find("")->size(); }));
  std::printf("search                          %.3f s\n", secondsOf([&] { (void)cabinet.find("ring pass dome"); }));
  std::printf("search that finds one           %.3f s\n", secondsOf([&] { (void)cabinet.find("4711"); }));
  std::printf("listed %zu, most memory %.0f MiB\n", listed, mostMemory_MiB());
  return 0;
}
