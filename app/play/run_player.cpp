#include "play/run_player.h"

#include <algorithm>

namespace rubble::app {

namespace {

constexpr int k_frame_ms = 16;
constexpr double k_slowest = 0.25, k_fastest = 4;

} // namespace

RunPlayer::RunPlayer(QObject* parent) : QObject(parent) {
    timer_.setInterval(k_frame_ms);
    connect(&timer_, &QTimer::timeout, this, &RunPlayer::go_on);
}

void RunPlayer::begin(double length_s) {
    length_s_ = length_s, at_s_ = 0, paused_ = false;
    clock_.start();
    timer_.start();
}

void RunPlayer::stop() {
    if (!timer_.isActive()) return;
    timer_.stop();
    emit ended();
}

void RunPlayer::change_speed(bool faster) {
    speed_ = std::clamp(faster ? speed_ * 2 : speed_ / 2, k_slowest, k_fastest);
}

void RunPlayer::pause_or_go_on() {
    paused_ = !paused_;
    clock_.restart();
}

void RunPlayer::go_on() {
    const double passed = paused_ ? 0 : double(clock_.restart()) / 1000 * speed_;
    at_s_ += passed;
    if (at_s_ >= length_s_) return stop();
    emit moved(at_s_, passed);
}

} // namespace rubble::app
