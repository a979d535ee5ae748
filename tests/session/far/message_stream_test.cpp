#include "session/far/message_stream.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <sys/socket.h>
#include <unistd.h>

#include <array>
#include <thread>

#include "core/study/reach.h"
#include "session/far/ssh_link.h"

namespace {

using core::ErrorKind;
using session::farDeadlineIn;
using session::FarJson;
using session::MessageStream;
using ::testing::HasSubstr;

class Streams : public testing::Test {
 protected:
  Streams() { EXPECT_EQ(::socketpair(AF_UNIX, SOCK_STREAM, 0, ends_.data()), 0); }
  ~Streams() override {
    for (const int one : ends_)
      if (one >= 0) ::close(one);
  }
  void write(const std::string& bytes) const {
    ASSERT_EQ(::write(ends_[0], bytes.data(), bytes.size()), static_cast<ssize_t>(bytes.size()));
  }
  std::array<int, 2> ends_{-1, -1};
};

TEST_F(Streams, CarryMessagesOfAnySizeInTheirOrder) {
  MessageStream from(ends_[0], ends_[0]);
  MessageStream to(ends_[1], ends_[1]);
  const FarJson large{{"bytes", std::string(6U << 20, 'x')}};
  std::thread sender([&] {
    EXPECT_TRUE(from.send(large).ok());
    EXPECT_TRUE(from.send({{"id", 2}}).ok());
  });
  EXPECT_EQ(*to.receive(farDeadlineIn(60)), large);
  EXPECT_EQ((*to.receive(farDeadlineIn(60)))["id"], 2);
  sender.join();
  EXPECT_EQ(from.send({{"bytes", std::string(9U << 20, 'x')}}).error().kind, ErrorKind::OutOfRange);
}

TEST_F(Streams, TakeNothingThatIsNoMessage) {
  const std::string deep = std::string(20, '[') + std::string(20, ']');
  for (const std::string& body :
       {std::string("[1]"), std::string("{\"a\":"), "{\"a\":" + deep + "}", std::string("\xff")}) {
    const auto message = session::farMessageFrom(body);
    ASSERT_FALSE(message.ok()) << body;
    EXPECT_EQ(message.error().kind, ErrorKind::Malformed);
  }
  MessageStream to(ends_[1], ends_[1]);
  write("Welcome to the observatory\n");
  EXPECT_THAT(to.receive(farDeadlineIn(60)).error().what, HasSubstr("it wrote \"Welcome to the observatory\""));
}

TEST_F(Streams, WaitNoLongerThanTheyAreTold) {
  MessageStream to(ends_[1], ends_[1]);
  EXPECT_FALSE(to.hasMore(farDeadlineIn(0.01)));
  write(std::string("\0\0\0\x08{\"id\"", 9));
  EXPECT_EQ(to.receive(farDeadlineIn(0.05)).error().kind, ErrorKind::Away) << "the rest does not come";
  write(":1}");
  EXPECT_EQ((*to.receive(farDeadlineIn(60)))["id"], 1) << "what came is not lost";
  ::close(std::exchange(ends_[0], -1));
  EXPECT_EQ(to.receive(farDeadlineIn(60)).error().kind, ErrorKind::Away);
}

TEST(FarErrors, CrossAsTheyAre) {
  const core::Error error{ErrorKind::NotAtLevel, "32 GB was asked", "more", "Set it"};
  const core::Error back = session::farErrorFrom(session::farErrorJson(error));
  EXPECT_EQ(back.kind, error.kind);
  EXPECT_EQ(back.sentence(), error.sentence());
  EXPECT_FALSE(session::farErrorFrom(FarJson(3)).what.empty());
}

TEST(FarErrors, SayWhySshCouldNot) {
  const auto kindOf = [](int code, const char* said) { return session::sshError("dome-node-3", code, said).kind; };
  EXPECT_EQ(kindOf(255, "@ WARNING: REMOTE HOST IDENTIFICATION HAS CHANGED! @"), ErrorKind::NotAllowed);
  EXPECT_EQ(kindOf(255, "No ED25519 host key for dome is known.\nHost key verification failed."),
            ErrorKind::NotAllowed);
  EXPECT_EQ(kindOf(255, "osei@dome: Permission denied (publickey)."), ErrorKind::Denied);
  EXPECT_EQ(kindOf(127, "sh: 1: iron-lever-cli: not found"), ErrorKind::Missing);
  EXPECT_EQ(kindOf(255, "ssh: connect to host dome port 22: No route to host"), ErrorKind::Away);
  EXPECT_THAT(session::sshError("dome-node-3", 255, "x\nssh: connect: No route to host\n").what,
              HasSubstr("it is away: ssh: connect: No route to host"));
}

TEST(Reaches, AreReadAndWrittenAndNoOptionOfSsh) {
  for (const char* text : {"here", "ssh:osei@dome-node-3", "folder:../bench", "elsewhere"})
    EXPECT_EQ(core::reachText(*core::reachFrom(text)), text);
  for (const char* text : {"", "ssh:", "ssh:-oProxyCommand=x", "ssh:a b", "ssh:a\nb", "folder:", "over there"})
    EXPECT_FALSE(core::reachFrom(text).ok()) << text;
  core::Study study;
  for (const char* text : {"ssh:dome-node-3", "folder:bench", "elsewhere", "here"}) {
    core::setReach(study, *core::reachFrom(text));
    EXPECT_EQ(core::reachText(core::reachOf(study)), text);
  }
}

}  // namespace
