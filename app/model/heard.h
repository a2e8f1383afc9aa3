// What the scene's sound is, as the window shows and plays it: read off its thread.
#pragma once

#include <QObject>
#include <memory>
#include <vector>

#include "loop/sound_levels.h"
#include "scene/scene.h"
#include "sound/tempo.h"
#include "sound/track_sound.h"

namespace oa::app {

class Document;

class Heard : public QObject {
  Q_OBJECT
 public:
  explicit Heard(Document& document);

  /// Of the loop, in kParts parts; empty: there is no sound, or it is not read yet.
  [[nodiscard]] const std::vector<WavePart>& wave() const { return wave_; }
  /// Of the whole file, likewise.
  [[nodiscard]] const std::vector<WavePart>& whole() const { return whole_; }
  /// What values follow; null where there is no sound.
  [[nodiscard]] const SoundLevels* levels() const { return levels_.get(); }
  /// What is heard with the loop; empty: nothing.
  [[nodiscard]] const SoundFunction& sound() const { return sound_; }
  /// What is heard with the run.
  [[nodiscard]] const SoundFunction& runSound() const { return runSound_; }
  [[nodiscard]] const Tempo& tempo() const { return tempo_; }
  /// The file itself; null where there is none.
  [[nodiscard]] const std::shared_ptr<const Sound>& file() const { return file_; }
  /// Why it cannot be heard; empty if it can, or there is none.
  [[nodiscard]] const QString& problem() const { return problem_; }

  static constexpr int kParts = 720;

 Q_SIGNALS:
  void changed();

 private:
  struct Made;
  void refresh();
  void read();

  Document& document_;
  SoundTrack seen_;
  std::vector<double> seenLoop_;
  std::string known_;  // the file whose tempo and whole wave are there
  std::vector<WavePart> wave_;
  std::vector<WavePart> whole_;
  std::shared_ptr<const SoundLevels> levels_;
  std::shared_ptr<const Sound> file_;
  SoundFunction sound_;
  SoundFunction runSound_;
  Tempo tempo_;
  QString problem_;
  bool reading_ = false;
  bool again_ = false;
};

}  // namespace oa::app
