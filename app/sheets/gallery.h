// The starters: ready-made scenes with moving thumbnails.
#pragma once

#include <QTimer>
#include <QWidget>
#include <atomic>
#include <thread>
#include <vector>

#include "scene/scene.h"

class QAbstractButton;

namespace oa::app {

/// The scenes that ship with the program, by name.
std::vector<Scene> starterScenes();

class Gallery : public QWidget {
  Q_OBJECT
 public:
  explicit Gallery(QWidget* parent = nullptr);
  ~Gallery() override;
  [[nodiscard]] int count() const { return static_cast<int>(cards_.size()); }
  [[nodiscard]] QAbstractButton* card(int index) const;

 Q_SIGNALS:
  void chosen(const oa::Scene& scene);
  void closed();
  void framesReady(int card);

 protected:
  void showEvent(QShowEvent*) override;
  void hideEvent(QHideEvent*) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void render();
  std::vector<Scene> scenes_;
  std::vector<class StarterCard*> cards_;
  QTimer timer_;
  std::thread thread_;
  std::atomic<bool> stop_{false};
};

}  // namespace oa::app
