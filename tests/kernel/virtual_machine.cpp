#include "kernel/virtual_machine.h"

#include <QCoreApplication>
#include <QDeadlineTimer>
#include <QProcess>
#include <QStandardPaths>
#include <cstring>
#include <filesystem>
#include <fstream>

#include <fmt/format.h>

namespace kernel {
namespace {

namespace fs = std::filesystem;

constexpr int kBootMs = 240'000;
constexpr const char* kBegin = "=====BEGIN=====";
constexpr const char* kEnd = "=====END=====";

std::string unpackedKernel() { return IRON_LEVER_KERNEL; }

// The one file below `folder` whose name fits, empty where there is none.
std::string found(const std::string& folder, const std::string& name) {
  std::error_code code;
  for (fs::recursive_directory_iterator file(folder, code), end; file != end; file.increment(code))
    if (!code && file->is_regular_file() && file->path().filename().string().starts_with(name))
      return file->path().string();
  return "";
}

// Without what packs it, where that could be taken off: it is most of a boot.
std::string kernelToBoot() {
  std::string plain = unpackedKernel() + "/vmlinux";
  return fs::exists(plain) ? plain : found(unpackedKernel() + "/boot", "vmlinuz");
}

std::string programFolder() { return QCoreApplication::applicationDirPath().toStdString(); }

// A program of the host's at its own name in bin, and every library that it needs at its own path.
void addProgram(const fs::path& root, const std::string& program) {
  fs::create_directories(root / "bin");
  const fs::path into = root / "bin" / fs::path(program).filename();
  fs::copy_file(program, into, fs::copy_options::overwrite_existing);
  (void)runOnHost(QStringLiteral("strip"), {QString::fromStdString(into)}, root.string());
  QProcess libraries;
  libraries.start(QStringLiteral("ldd"), {QString::fromStdString(program)});
  libraries.waitForFinished();
  for (const QByteArray& line : libraries.readAllStandardOutput().split('\n')) {
    const auto begin = line.indexOf('/');
    if (begin < 0) continue;
    const std::string path = line.mid(begin, line.indexOf(' ', begin) - begin).toStdString();
    fs::create_directories((root / path.substr(1)).parent_path());
    fs::copy_file(path, root / path.substr(1), fs::copy_options::overwrite_existing);
  }
}

void addPrograms(const fs::path& root) {
  for (const char* name : {"/iron-lever-cli", "/iron-lever-probe"}) addProgram(root, programFolder() + name);
  fs::copy_file(QStandardPaths::findExecutable(QStringLiteral("busybox")).toStdString(), root / "bin/busybox");
}

// What a drive, its file system and the network need, in the order in which they need each other.
void addModules(const fs::path& root) {
  fs::create_directories(root / "modules");
  std::ofstream order(root / "modules/order");
  for (const char* name : {"crc64", "crc64-rocksoft", "crct10dif_common", "crc-t10dif", "t10-pi", "nvme-core", "nvme",
                           "crc16", "crc32c_generic", "libcrc32c", "mbcache", "jbd2", "ext4", "e1000"}) {
    const std::string module = found(unpackedKernel() + "/lib/modules", std::string(name) + ".ko");
    if (module.empty()) continue;
    fs::copy_file(module, root / "modules" / (std::string(name) + ".ko"));
    order << name << ".ko\n";
  }
}

// Not compressed: the machine, which is emulated, would take longer than this one saves.
void pack(const fs::path& root, const std::string& into) {
  const QString script = QStringLiteral("find . | cpio -o -H newc --quiet > '%1'").arg(QString::fromStdString(into));
  ASSERT_EQ(runOnHost(QStringLiteral("sh"), {QStringLiteral("-c"), script}, root.string()), 0);
}

constexpr const char* kStuck = "soft lockup";

// What the machine printed until it switched itself off, was stuck before our script began, or its time was up.
QByteArray printedBy(const QStringList& arguments) {
  QProcess machine;
  machine.setProcessChannelMode(QProcess::MergedChannels);
  machine.start(QStringLiteral("qemu-system-x86_64"), arguments);
  QByteArray said;
  const QDeadlineTimer deadline(kBootMs);
  while (machine.state() != QProcess::NotRunning && !deadline.hasExpired()) {
    machine.waitForReadyRead(1000);
    said += machine.readAll();
    if (said.contains(kStuck) && !said.contains(kBegin)) break;
  }
  EXPECT_FALSE(deadline.hasExpired()) << "the machine was not done after " << kBootMs / 1000 << " s; it said\n"
                                      << said.toStdString();
  machine.kill();
  machine.waitForFinished();
  return said + machine.readAll();
}

Boot readBoot(std::string said) {
  std::erase(said, '\r');
  const auto begin = said.find(kBegin);
  if (begin == std::string::npos) return {false, said};
  const std::size_t from = begin + std::string(kBegin).size() + 1;
  return {true, said.substr(from, said.find(kEnd, from) - from)};
}

}  // namespace

int runOnHost(const QString& program, const QStringList& arguments, const std::string& folder) {
  QProcess process;
  process.setWorkingDirectory(QString::fromStdString(folder));
  process.start(program, arguments);
  return process.waitForFinished(kBootMs) && process.exitStatus() == QProcess::NormalExit ? process.exitCode() : -1;
}

std::string Machine::whyNot() {
  for (const char* program : {"qemu-system-x86_64", "busybox", "cpio", "mke2fs"})
    if (QStandardPaths::findExecutable(QLatin1String(program)).isEmpty() &&
        QStandardPaths::findExecutable(QLatin1String(program), {QStringLiteral("/usr/sbin"), QStringLiteral("/sbin")})
            .isEmpty())
      return std::string(program) + " is not on this machine";
  if (kernelToBoot().empty()) return "there is no kernel to boot in " + unpackedKernel() + ": ./lever test fetches it";
  return "";
}

Machine::Machine(const std::string& folder) : folder_(folder) {
  const fs::path root = fs::path(folder) / "root";
  addPrograms(root);
  addModules(root);
  std::ofstream(root / "init") << "#!/bin/busybox sh\n"
                                  "/bin/busybox mkdir -p /proc /sys /dev /tmp /disk /run /root\n"
                                  "/bin/busybox --install -s /bin\n"
                                  "export PATH=/bin HOME=/root QT_LOGGING_RULES='*=false'\n"
                                  "mount -t proc proc /proc; mount -t sysfs sys /sys; mount -t devtmpfs dev /dev\n"
                                  "mount -t tmpfs tmp /tmp; mount -t tmpfs run /run\n"
                                  "while read module; do insmod /modules/$module; done < /modules/order\n"
                                  "for i in 1 2 3 4 5 6 7 8 9 10; do [ -b /dev/nvme0n1 ] && break; sleep 0.2; done\n"
                                  "mount -t ext4 /dev/nvme0n1 /disk 2>/dev/null\n"
                                  "echo '=====BEGIN====='\n"
                                  ". /job\n"
                                  "echo '=====END====='\n"
                                  "umount /disk 2>/dev/null; sync; poweroff -f\n";
  fs::permissions(root / "init", fs::perms::owner_all);
  pack(root, folder + "/initrd");
}

std::string Machine::makeDisk() const {
  std::string path = folder_ + "/disk-XXXXXX";
  const int file = ::mkstemp(path.data());
  EXPECT_EQ(::ftruncate(file, 64 << 20), 0);
  ::close(file);
  EXPECT_EQ(runOnHost(QStringLiteral("/sbin/mke2fs"),
                      {QStringLiteral("-q"), QStringLiteral("-F"), QStringLiteral("-t"), QStringLiteral("ext4"),
                       QStringLiteral("-O"), QStringLiteral("^metadata_csum,^64bit"), QString::fromStdString(path)},
                      folder_),
            0);
  return path;
}

std::string Machine::initrdFor(const Job& job) const {
  // The job is an archive of its own behind the first one: the kernel unpacks both.
  std::string own = folder_ + "/job-XXXXXX";
  if (!::mkdtemp(own.data())) return {};
  std::ofstream(own + "/job") << job.script << '\n';
  for (const std::string& program : job.programs) addProgram(own, program);
  for (const auto& [path, contents] : job.files) {
    fs::create_directories(fs::path(own + "/" + path).parent_path());
    std::ofstream(own + "/" + path) << contents;
    fs::permissions(own + "/" + path, fs::perms::owner_read | fs::perms::owner_write);
  }
  pack(own, own + ".cpio");
  std::ofstream whole(own + ".initrd", std::ios::binary);
  for (const std::string& part : {folder_ + "/initrd", own + ".cpio"}) {
    std::ifstream in(part, std::ios::binary);
    whole << in.rdbuf();
  }
  return own + ".initrd";
}

QStringList Machine::arguments(const Firmware& firmware, const std::string& initrd, const std::string& disk) {
  const auto text = [](const std::string& words) { return QString::fromStdString(words); };
  return {QStringLiteral("-M"),
          QStringLiteral("q35"),
          QStringLiteral("-accel"),
          QStringLiteral("tcg,thread=single"),
          QStringLiteral("-cpu"),
          text(firmware.processor_model),
          QStringLiteral("-nodefaults"),
          QStringLiteral("-nographic"),
          QStringLiteral("-serial"),
          QStringLiteral("stdio"),
          QStringLiteral("-no-reboot"),
          QStringLiteral("-m"),
          text(std::to_string(firmware.memory_mib) + "M"),
          QStringLiteral("-smp"),
          text(firmware.processors),
          QStringLiteral("-kernel"),
          text(kernelToBoot()),
          QStringLiteral("-initrd"),
          text(initrd),
          QStringLiteral("-append"),
          QStringLiteral("console=ttyS0 panic=1 quiet"),
          QStringLiteral("-smbios"),
          text(fmt::format("type=17,loc_pfx=DIMM_A,bank=B0,manufacturer=Marl Memory,serial=1,asset=2,part=MM,speed={}",
                           firmware.memory_mts)),
          QStringLiteral("-smbios"),
          text("type=0,vendor=Hollin Firmware Works,version=" + firmware.version),
          QStringLiteral("-smbios"),
          text("type=2,manufacturer=Corvane,product=" + firmware.board),
          QStringLiteral("-device"),
          text("pcie-root-port,id=rp1,bus=pcie.0,chassis=1,slot=1," + firmware.slot),
          QStringLiteral("-drive"),
          text("file=" + disk + ",if=none,id=d,format=raw"),
          QStringLiteral("-device"),
          QStringLiteral("nvme,serial=abc,drive=d,bus=rp1")};
}

Boot Machine::boot(const Firmware& firmware, const std::string& script, const std::string& disk) const {
  const std::string initrd = initrdFor({script});
  std::string drive = disk;
  if (drive.empty()) {
    drive = initrd + ".disk";
    std::ofstream(drive).close();
    fs::resize_file(drive, 8 << 20);
  }
  // An emulated processor now and then never comes back while the kernel starts: nothing of ours has run by then, and
  // the machine is switched on again.
  constexpr int kMostStarts = 3;
  QByteArray said;
  for (int start = 0; start < kMostStarts; ++start) {
    said = printedBy(arguments(firmware, initrd, drive));
    if (!said.contains(kStuck) || said.contains(kBegin)) break;
  }
  return readBoot(said.toStdString());
}

RunningMachine::RunningMachine(const Machine& machine, Firmware firmware, const Machine::Job& job, int port)
    : firmware_(std::move(firmware)), initrd_(machine.initrdFor(job)), disk_(job.disk), port_(port) {
  process_.setProcessChannelMode(QProcess::MergedChannels);
  switchOn();
}

RunningMachine::~RunningMachine() {
  process_.kill();
  process_.waitForFinished();
}

void RunningMachine::switchOn() {
  began_at_ = said_.size();
  const QStringList network{QStringLiteral("-netdev"),
                            QStringLiteral("user,id=n,restrict=on,hostfwd=tcp:127.0.0.1:%1-:22").arg(port_),
                            QStringLiteral("-device"), QStringLiteral("e1000,netdev=n")};
  process_.start(QStringLiteral("qemu-system-x86_64"), Machine::arguments(firmware_, initrd_, disk_) + network);
  ASSERT_TRUE(process_.waitForStarted());
}

void RunningMachine::look() {
  process_.waitForReadyRead(100);
  said_ += process_.readAll();
  const bool is_stuck = said_.indexOf(kStuck, began_at_) >= 0 && said_.indexOf(kBegin, began_at_) < 0;
  if (is_stuck) {
    process_.kill();
    process_.waitForFinished();
  }
  if (process_.state() != QProcess::NotRunning) return;
  constexpr const char* kAsks = "SET ";
  if (const auto asks = said_.lastIndexOf(kAsks); asks >= began_at_) {
    const auto level = asks + static_cast<qsizetype>(std::strlen(kAsks));
    firmware_.version = said_.mid(level, said_.indexOf('\n', level) - level).trimmed().toStdString();
    ++restarts_;
  }
  switchOn();
}

}  // namespace kernel
