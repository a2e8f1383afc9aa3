// The starters: ready-made scenes with moving thumbnails.
#pragma once

#include "sheets/live_gallery.h"

namespace oa::app {

/// The scenes that ship with the program, by name.
std::vector<Scene> starterScenes();

class Gallery : public LiveGallery {
  Q_OBJECT
 public:
  explicit Gallery(QWidget* parent = nullptr);

 Q_SIGNALS:
  void chosen(const oa::Scene& scene);
};

}  // namespace oa::app
