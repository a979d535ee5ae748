#include "core/values/personal_text.h"

#include <gtest/gtest.h>

namespace {

using core::PersonalKind;
using Found = std::vector<core::PersonalText>;

TEST(PersonalTexts, AreFoundByTheirForm) {
  const Found found = core::personalTexts(
      R"(run "/home/osei/rigs/ring" --map=/mnt/stick/a.map (see /root/x) root=UUID=0a1b2c3d-0000-4000-8000-00000000abcd)"
      " link 0a:1b:2c:3d:4e:5f id 0123456789abcdef0123456789abcdef to ada@dome.example on dome-3",
      {{"Varga"}, "dome-3"});
  EXPECT_EQ(found, (Found{{PersonalKind::Person, "osei"},
                          {PersonalKind::Path, "/home/osei/rigs/ring"},
                          {PersonalKind::Path, "/mnt/stick/a.map"},
                          {PersonalKind::Person, "root"},
                          {PersonalKind::Path, "/root/x"},
                          {PersonalKind::Identifier, "0a1b2c3d-0000-4000-8000-00000000abcd"},
                          {PersonalKind::Identifier, "0a:1b:2c:3d:4e:5f"},
                          {PersonalKind::Identifier, "0123456789abcdef0123456789abcdef"},
                          {PersonalKind::Identifier, "ada@dome.example"},
                          {PersonalKind::Host, "dome-3"}}));
}

TEST(PersonalTexts, LeaveAloneWhatOnlyLooksLikeThem) {
  EXPECT_EQ(
      core::personalTexts("pci/0000:01:00.0/current_link_speed /sys/class/drm /usr/bin/env 60/50 MT/s 1/2 @60 a@b "
                          "2026-03-18T10:11:12 0x0123 Vargas /",
                          {{"Varga", "ab"}, "x"}),
      Found{});
}

TEST(PersonalTexts, HaveNoHomeInAPage) {
  EXPECT_EQ(core::withoutHomes("/home/osei/rigs/ring, /root, '/run/media/osei/stick' and /opt/ring at 60/home/x"),
            "~/rigs/ring, ~, '~/stick' and /opt/ring at 60/home/x");
}

}  // namespace
