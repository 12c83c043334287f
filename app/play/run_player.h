#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

namespace rubble::app {

/// Lets time go on while a run is watched: as real time does, however long the pictures take, or slower and
/// faster.
class RunPlayer : public QObject {
    Q_OBJECT
public:
    explicit RunPlayer(QObject* parent = nullptr);

    void begin(double length_s);
    void stop();
    bool playing() const { return timer_.isActive(); }
    double speed() const { return speed_; }
    /// Twice or half as fast, from a quarter to four times.
    void change_speed(bool faster);
    void pause_or_go_on();
    bool paused() const { return paused_; }

signals:
    /// Where it is by now, and how much time of the run has passed since the last time.
    void moved(double seconds, double passed);
    void ended();

private:
    void go_on();

    QTimer timer_;
    QElapsedTimer clock_;
    double length_s_ = 0, at_s_ = 0, speed_ = 1;
    bool paused_ = false;
};

} // namespace rubble::app
