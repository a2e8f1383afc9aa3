#include "scene/looks.h"

#include <algorithm>

namespace oa {

namespace {

bool sameLayers(const std::vector<Layer>& a, const std::vector<Layer>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](const Layer& p, const Layer& q) {
    return p.id == q.id && p.visible == q.visible && p.blend == q.blend && p.opacity == q.opacity && p.place == q.place &&
           p.mask == q.mask && p.presence == q.presence && p.passes == q.passes && p.hold == q.hold && p.recipe == q.recipe &&
           sameLayers(p.layers, q.layers);
  });
}

// Values follow the sound of the loop, whoever hears it.
bool sameStretch(const Scene& a, const Scene& b) {
  for (const SoundParam which : {SoundParam::File, SoundParam::From, SoundParam::Meet})
    if (a.sound.at(which).base != b.sound.at(which).base) return false;
  return true;
}

}  // namespace

bool looksSame(const Scene& a, const Scene& b) {
  return a.width == b.width && a.height == b.height && a.rate == b.rate && a.frames == b.frames && a.background == b.background &&
         a.linearLight == b.linearLight && a.hold == b.hold && sameStretch(a, b) && a.run.wholeLaps == b.run.wholeLaps &&
         a.run.loops == b.run.loops && a.run.seconds == b.run.seconds && sameLayers(a.layers, b.layers);
}

}  // namespace oa
