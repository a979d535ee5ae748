#include "probe/options.h"

namespace probe {

const std::map<std::string, int>& sizes() {
  static const std::map<std::string, int> pixels{{"1k", 1024}, {"2k", 2048}, {"4k", 4096}};
  return pixels;
}

const std::map<std::string, SceneLoad>& loads() {
  static const std::map<std::string, SceneLoad> all{
      {"shading", SceneLoad::Shading}, {"textures", SceneLoad::Textures}, {"draws", SceneLoad::Draws}};
  return all;
}

}  // namespace probe
