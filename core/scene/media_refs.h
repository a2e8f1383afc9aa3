// The files that a scene shows, and the ways to them.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "scene/scene.h"

namespace oa {

/// Every file that a scene names, wherever it is used; not where none was chosen.
void forEachMedia(Scene& scene, const std::function<void(MediaRef&)>& visit);
void forEachMedia(const Scene& scene, const std::function<void(const MediaRef&)>& visit);

/// Paths as they stand in a scene file in `folder`: relative to it. What is embedded has a name and no path.
void makeRelative(Scene& scene, const std::string& folder);
/// And back: absolute ones, for the program.
void makeAbsolute(Scene& scene, const std::string& folder);

/// Files of which only the path is known, as in scenes written by hand, are taken in; those that cannot be stay as they are.
void completeMedia(Scene& scene);

/// A file that a scene shows and that cannot be shown as it was taken in.
struct MediaProblem {
  MediaRef ref;
  std::string sentence;  ///< "quay.png is not there any more", without the folder
  bool changed = false;  ///< there is a file that could be shown, but not the one that was taken in
};
/// Each file once, in the order of the layers. Looks at the disk.
std::vector<MediaProblem> mediaProblems(const Scene& scene);

/// Shows `to` wherever `from` was shown. What else is missing and lies, by the same name and with the same content, where the
/// found file lies (or at the same way from there) is found with it. How many files were.
int pointElsewhere(Scene& scene, const MediaRef& from, const MediaRef& to);

}  // namespace oa
