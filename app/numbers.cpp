#include "numbers.h"

#include <cmath>

namespace rubble::app {

namespace {

/// A reader of sums by recursive descent.
class Sum {
public:
    explicit Sum(const QString& text) : text_(text) {}

    std::optional<double> value() {
        const double result = terms();
        skip();
        if (failed_ || at_ != text_.size() || !std::isfinite(result)) return {};
        return result;
    }

private:
    void skip() {
        while (at_ < text_.size() && text_[at_].isSpace()) ++at_;
    }
    bool take(QChar c) {
        skip();
        if (at_ >= text_.size() || text_[at_] != c) return false;
        ++at_;
        return true;
    }
    bool take(const QString& word) {
        skip();
        if (text_.mid(at_, word.size()) != word) return false;
        at_ += word.size();
        return true;
    }
    double terms() {
        double sum = factors();
        for (;;) {
            if (take('+'))
                sum += factors();
            else if (take('-') || take(QChar(0x2212)))
                sum -= factors();
            else
                return sum;
        }
    }
    double factors() {
        double product = number();
        for (;;) {
            if (take('*'))
                product *= number();
            else if (take('/'))
                product /= number();
            else
                return product;
        }
    }
    double number() {
        if (++depth_ > 50) failed_ = true;
        if (failed_) return 0;
        if (take('-') || take(QChar(0x2212))) return -number();
        if (take('(')) {
            const double inner = terms();
            if (!take(')')) failed_ = true;
            --depth_;
            return inner;
        }
        skip();
        const qsizetype begin = at_;
        while (at_ < text_.size() && (text_[at_].isDigit() || text_[at_] == '.' || text_[at_] == ',')) ++at_;
        bool ok = false;
        const double plain = text_.mid(begin, at_ - begin).replace(',', '.').toDouble(&ok);
        if (!ok) failed_ = true;
        --depth_;
        if (take(QStringLiteral("cm"))) return plain / 100;
        if (take(QStringLiteral("mm"))) return plain / 1000;
        take(QStringLiteral("m"));
        return plain;
    }

    QString text_;
    qsizetype at_ = 0;
    int depth_ = 0;
    bool failed_ = false;
};

} // namespace

std::optional<double> parse_metres(const QString& text) { return Sum(text.trimmed()).value(); }

QString metres_text(double metres) { return QString::number(metres, 'f', 2) + QStringLiteral(" m"); }

QString plain_number(double value) {
    QString text = QString::number(std::abs(value) < 5e-5 ? 0.0 : value, 'f', 4);
    while (text.endsWith('0')) text.chop(1);
    if (text.endsWith('.')) text.chop(1);
    return text;
}

QString counted(int count, const QString& one, const QString& many) {
    return QStringLiteral("%1 %2").arg(count).arg(count == 1 ? one : many);
}

QString signed_text(double value, int digits, const QString& unit) {
    return (value > 0 ? QStringLiteral("+") : QString()) + QString::number(value, 'f', digits) + unit;
}

} // namespace rubble::app
