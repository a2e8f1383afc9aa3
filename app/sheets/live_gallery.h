// A page of cards with moving thumbnails, in sections, rendered on a thread of its own.
#pragma once

#include <QImage>
#include <QSize>
#include <QString>
#include <QTimer>
#include <QWidget>
#include <atomic>
#include <thread>
#include <vector>

#include "scene/scene.h"

class QAbstractButton;
class QHBoxLayout;
class QLabel;
class QScrollArea;

namespace oa::app {

struct GalleryItem {
  Scene scene;
  QString name;
  QString details;      ///< second line; may be empty
  QString section;      ///< heading above the first card of its kind
  QString help;         ///< tooltip
  bool run = false;     ///< the run is shown, not the loop
  QImage first = {};    ///< shown until there is one of its own
  bool halved = false;  ///< its left half is the scene `before`
};

class LiveGallery : public QWidget {
  Q_OBJECT
 public:
  LiveGallery(const QString& title, const QString& says, int columns, QSize thumb, QWidget* parent = nullptr);
  ~LiveGallery() override;
  /// `before` is what the left half of halved items shows, going round with the loop beside it.
  void setItems(std::vector<GalleryItem> items, Scene before = {});
  void setWords(const QString& title, const QString& says);
  [[nodiscard]] int count() const { return static_cast<int>(cards_.size()); }
  [[nodiscard]] QAbstractButton* card(int index) const;
  /// Pictures that are held now; none while the gallery is hidden.
  [[nodiscard]] int heldFrames() const;
  [[nodiscard]] bool working() const { return thread_.joinable(); }
  [[nodiscard]] const std::vector<GalleryItem>& items() const { return items_; }

 Q_SIGNALS:
  void picked(int card);
  void closed();
  void framesReady(int card);

 protected:
  /// Sections of few cards stand beside each other, each below its heading.
  void setSectionsBeside(bool beside) { beside_ = beside; }
  /// Puts a control into the line of the title.
  void addTool(QWidget* tool);
  void showEvent(QShowEvent*) override;
  void hideEvent(QHideEvent*) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void rebuild();
  void render();
  void start();
  void stop();
  int columns_;
  bool beside_ = false;
  QSize thumb_;
  std::vector<GalleryItem> items_;
  Scene before_;
  std::vector<class LiveCard*> cards_;
  QHBoxLayout* top_;
  QLabel* title_;
  QLabel* says_;
  QScrollArea* scroll_;
  QTimer timer_;
  std::thread thread_;
  std::atomic<bool> stop_{false};
};

}  // namespace oa::app
