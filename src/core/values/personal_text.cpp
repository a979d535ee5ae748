#include "core/values/personal_text.h"

#include <algorithm>
#include <array>
#include <cctype>

namespace core {
namespace {

bool isWordSign(char c) { return std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '_'; }
bool isHex(char c) { return std::isxdigit(static_cast<unsigned char>(c)) != 0; }
bool isOneOf(char c, std::string_view signs) { return signs.find(c) != std::string_view::npos; }
bool endsPath(char c) { return static_cast<unsigned char>(c) <= ' ' || isOneOf(c, "\"'`<>|,;:()[]{}*?\\"); }

/// Groups of hexadecimal digits with a sign between them, such as 8-4-4-4-12: how many signs from `at` on; 0: none.
std::size_t hexGroups(std::string_view text, std::size_t at, std::initializer_list<std::size_t> groups, char between) {
  const std::size_t begin = at;
  for (const std::size_t group : groups) {
    if (at != begin && (at >= text.size() || text[at++] != between)) return 0;
    for (std::size_t i = 0; i < group; ++i, ++at)
      if (at >= text.size() || !isHex(text[at])) return 0;
  }
  return at < text.size() && (isWordSign(text[at]) || text[at] == between) ? 0 : at - begin;
}

std::size_t identifierAt(std::string_view text, std::size_t at) {
  if (const auto uuid = hexGroups(text, at, {8, 4, 4, 4, 12}, '-')) return uuid;
  if (const auto machine = hexGroups(text, at, {32}, '-')) return machine;
  return hexGroups(text, at, {2, 2, 2, 2, 2, 2}, ':');
}

/// A path's first folders under which every user has one of their own; the name behind it is theirs.
constexpr std::array<std::string_view, 6> kHomes{"/home/",      "/var/home/", "/Users/",
                                                 "/run/media/", "/media/",    "/run/user/"};
constexpr std::array<std::string_view, 16> kSystem{"/usr", "/bin",  "/sbin", "/lib", "/lib32", "/lib64",
                                                   "/etc", "/proc", "/sys",  "/dev", "/run",   "/boot",
                                                   "/opt", "/var",  "/tmp",  "/nix"};

/// The home that a path begins with, without what follows; empty: none.
std::string_view homeOf(std::string_view path) {
  if (path == "/root" || path.starts_with("/root/")) return path.substr(0, 5);
  for (const std::string_view home : kHomes) {
    if (!path.starts_with(home) || path.size() == home.size()) continue;
    return path.substr(0, std::min(path.find('/', home.size()), path.size()));
  }
  return {};
}

bool isSystemPath(std::string_view path) {
  return std::any_of(kSystem.begin(), kSystem.end(), [&](std::string_view folder) {
    return path.starts_with(folder) && (path.size() == folder.size() || path[folder.size()] == '/');
  });
}

/// From a slash on that begins a word; a fraction, a date or a fact's name has one in its middle.
std::string_view pathAt(std::string_view text, std::size_t at) {
  if (text[at] != '/' || (at > 0 && (isWordSign(text[at - 1]) || isOneOf(text[at - 1], "/.-~*")))) return {};
  std::size_t end = at;
  while (end < text.size() && !endsPath(text[end])) ++end;
  while (end > at + 1 && (text[end - 1] == '.' || text[end - 1] == '/')) --end;
  const std::string_view path = text.substr(at, end - at);
  return path.size() > 1 && isWordSign(path[1]) ? path : std::string_view{};
}

class Search {
 public:
  Search(std::string_view text, const KnownNames& known) : text_(text), known_(known) {}

  std::vector<PersonalText> found() {
    for (std::size_t at = 0; at < text_.size(); ++at) {
      path(at);
      mail(at);
      if (at > 0 && isWordSign(text_[at - 1])) continue;
      if (const std::size_t size = identifierAt(text_, at)) add(PersonalKind::Identifier, text_.substr(at, size));
      for (const std::string& person : known_.people) name(at, person, PersonalKind::Person);
      name(at, known_.host, PersonalKind::Host);
    }
    return std::move(found_);
  }

 private:
  void path(std::size_t at) {
    const std::string_view path = pathAt(text_, at);
    if (path.empty()) return;
    const std::string_view home = homeOf(path);
    if (!home.empty()) add(PersonalKind::Person, home.substr(home.rfind('/') + 1));
    if (!home.empty() || !isSystemPath(path)) add(PersonalKind::Path, path);
  }
  void mail(std::size_t at) {
    if (text_[at] != '@') return;
    const auto is_part = [](char c) { return isWordSign(c) || c == '.' || c == '-' || c == '+'; };
    std::size_t begin = at;
    std::size_t end = at + 1;
    while (begin > 0 && is_part(text_[begin - 1])) --begin;
    while (end < text_.size() && is_part(text_[end])) ++end;
    const std::string_view host = text_.substr(at + 1, end - at - 1);
    const std::size_t dot = host.find('.');
    if (begin < at && dot != std::string_view::npos && dot > 0 && std::isalpha(static_cast<unsigned char>(host.back())))
      add(PersonalKind::Identifier, text_.substr(begin, end - begin));
  }
  void name(std::size_t at, std::string_view name, PersonalKind kind) {
    if (name.size() < 3 || !text_.substr(at).starts_with(name)) return;
    const std::size_t end = at + name.size();
    if (end == text_.size() || !isWordSign(text_[end])) add(kind, name);
  }
  void add(PersonalKind kind, std::string_view text) {
    PersonalText one{kind, std::string(text)};
    if (seen_.insert(one).second) found_.push_back(std::move(one));
  }

  std::string_view text_;
  const KnownNames& known_;
  std::vector<PersonalText> found_;
  std::set<PersonalText> seen_;
};

}  // namespace

const char* personalKindName(PersonalKind kind) {
  switch (kind) {
    case PersonalKind::Person: return "person";
    case PersonalKind::Path: return "path";
    case PersonalKind::Host: return "host";
    case PersonalKind::Identifier: return "identifier";
  }
  return "unknown";
}

std::vector<PersonalText> personalTexts(std::string_view text, const KnownNames& known) {
  return Search(text, known).found();
}

std::string withoutHomes(std::string_view text) {
  std::string without;
  for (std::size_t at = 0; at < text.size(); ++at) {
    const std::string_view home = homeOf(pathAt(text, at));
    if (home.empty()) {
      without += text[at];
    } else {
      without += '~';
      at += home.size() - 1;
    }
  }
  return without;
}

}  // namespace core
