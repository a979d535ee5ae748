// One byte of a sealed bundle, whichever it is.
#include <gtest/gtest.h>

#include <fstream>
#include <random>

#include "session/bundle/bundle.h"
#include "session/bundle/bundle_manifest.h"
#include "support/filed_study.h"
#include "support/test_folder.h"

namespace {

TEST(SealedBundle, LetsNoChangedBytePassUnseen) {
#if defined(__SANITIZE_ADDRESS__) || defined(__clang__)
  constexpr int kTries = 200;  // what is read wrongly is seen in each of them
#else
  constexpr int kTries = 1000;
#endif
  const support::TestFolder folder;
  support::RecordedStudy recorded{support::roundsOf(4, 1)};
  recorded.recordRates({60, 66});
  ASSERT_TRUE(support::fileStudy(folder / "s.ironlever", recorded, 1'764'000'000'000).ok());
  auto file = store::StudyFile::open(folder / "s.ironlever");
  ASSERT_TRUE(file.ok());
  session::OpenStudy open(*std::move(file), "osei");
  ASSERT_TRUE(open.read().ok());
  const auto sealed = session::sealBundle(open, folder / "b.zip", {});
  ASSERT_TRUE(sealed.ok()) << sealed.error().sentence();
  const std::string whole = support::contents(folder / "b.zip");
  const auto check = session::verifyBundle(folder / "b.zip");
  ASSERT_TRUE(check.ok() && check->differences.empty()) << (check ? check->differences[0].where : check.error().what);
  EXPECT_EQ(check->seal, sealed->seal);
  std::mt19937 draw(7);
  std::fstream bundle(folder / "b.zip", std::ios::binary | std::ios::in | std::ios::out);
  for (int i = 0; i < kTries; ++i) {
    const auto at = static_cast<std::streamoff>(draw() % whole.size());
    const char before = whole[static_cast<std::size_t>(at)];
    const char after = static_cast<char>(before ^ static_cast<char>(1 + draw() % 255));
    bundle.seekp(at).put(after).flush();
    const auto changed = session::verifyBundle(folder / "b.zip");
    ASSERT_TRUE(changed.ok()) << changed.error().sentence();
    EXPECT_FALSE(changed->differences.empty()) << "byte " << at;
    bundle.seekp(at).put(before).flush();
  }
}

// Planted: a count that no number of files can have was narrowed, which is undefined.
TEST(BundleManifest, TakesOnlyCountsForCounts) {
  const std::string fine =
      session::manifestText({{"1.0", "2026-12-01", {}}, {{"page.html", "00", 6}}, {{"serials", 2}}});
  ASSERT_TRUE(session::manifestFrom(fine).ok());
  for (const auto& [count, other] : {std::pair{"\"serials\": 2", "\"serials\": 1e300"},
                                     {"\"serials\": 2", "\"serials\": -1"},
                                     {"\"serials\": 2", "\"serials\": 4294967297"},
                                     {"\"bytes\": 6", "\"bytes\": 6.5"},
                                     {"\"bytes\": 6", "\"bytes\": \"6\""}}) {
    std::string text = fine;
    const std::size_t at = text.find(count);
    ASSERT_NE(at, std::string::npos) << fine;
    text.replace(at, std::string_view(count).size(), other);
    const auto read = session::manifestFrom(text);
    ASSERT_FALSE(read.ok()) << other;
    EXPECT_EQ(read.error().kind, core::ErrorKind::Malformed);
  }
}

}  // namespace
