/*
 * The loop over starts once more, in C, for the plain case only: a bank, an inverter and panels; no generator, no other source,
 * no coupled array. Written to be held against the compiled model: the same answers, and a fair measure of its speed.
 * Powers [W], energies [Wh], times [h]. Columns of the table as in hearthkeep/core/inverter/draws.py.
 */
#include <math.h>
#include <stdint.h>

enum { DIRECT = 4, IDLES = 5, BLOCKED = 6, SERVED = 8, DARK_TIER = 13, COLUMNS = 17 };
enum { ON = 0, OFF = 1, LIFE = 0, TIERS = 3, SPARE = 3, INVERTER = 3 };
static const double TINY_W = 1e-9, TINY_H = 1e-12;
static const int CALM_TURNS = 100, MOST_TURNS = 1000;

typedef struct {
    double capacity_wh, limit_w, efficiency, knee_wh, a_w, b_per_h, tiny_wh, start_wh;
    double drop_wh[3], return_wh[3];
    double discharge_efficiency, peukert_exponent, rated_power_w;
    int64_t tapers;
} Plant;

typedef struct { int64_t cell; int mode, carried; double net_w; } Flow;

/* Not fmin and fmax, which are calls into a library at -O3. */
static inline double least(double one, double other) { return one < other ? one : other; }
static inline double most(double one, double other) { return one > other ? one : other; }

static inline double accepted_w(double stored_wh, const Plant *p) {
    if (stored_wh >= p->capacity_wh - p->tiny_wh) return 0.0;
    if (stored_wh < p->knee_wh - p->tiny_wh || !p->tapers) return p->limit_w;
    return p->a_w - p->b_per_h * stored_wh;
}

static inline int carried_of(int out) {
    int carried = 0;
    while (carried < TIERS && !(out & (1 << carried))) carried++;
    return carried;
}

static inline Flow flow_of(const double *table, int64_t hours, int64_t row, double sun_w, int out, int carried) {
    Flow flow = {0, out & (1 << INVERTER) ? OFF : ON, carried, 0.0};
    flow.cell = (flow.mode * hours + row) * 5 + carried;
    flow.net_w = sun_w - table[flow.cell * COLUMNS + DIRECT];
    return flow;
}

static inline int next_out(const double *table, const Flow *flow, double stored_wh, const Plant *p) {
    const double *cell = table + flow->cell * COLUMNS;
    if (stored_wh <= p->drop_wh[LIFE] + p->tiny_wh && flow->mode == ON && cell[IDLES] > 0.0) return INVERTER;
    for (int tier = flow->carried - 1; tier >= 0; tier--)
        if (cell[SERVED + tier] > 0.0 && stored_wh <= p->drop_wh[tier] + p->tiny_wh) return tier;
    return -1;
}

static inline double along_limit_h(double stored_wh, double to_wh, const Plant *p) {
    double asymptote_wh = p->a_w / p->b_per_h;
    return -log((asymptote_wh - to_wh) / (asymptote_wh - stored_wh)) / (p->efficiency * p->b_per_h);
}

static inline double along_limit_wh(double stored_wh, double span_h, const Plant *p) {
    double asymptote_wh = p->a_w / p->b_per_h;
    return asymptote_wh - (asymptote_wh - stored_wh) * exp(-p->efficiency * p->b_per_h * span_h);
}

void plain_outcomes(int64_t starts, int64_t steps, int64_t days, int64_t hours, int64_t steps_a_day, const int64_t *first,
                    const int64_t *clock, const double *length_h, const int64_t *day_row, const int64_t *hour,
                    const double *sun, const double *table, const double *asked_w, const Plant *plant, double *found) {
    const Plant p = *plant;
    for (int64_t one = 0; one < starts; one++) {
        double stored_wh = least(p.start_wh, p.capacity_wh), now_h = 0.0;
        double dark_h = -1.0, life_dark_h = -1.0, dark_for_h = 0.0, lowest_wh = stored_wh;
        int out = 0;
        int64_t begin = first[one], first_day = begin / steps_a_day;
        const double *lengths = length_h + clock[one] * steps;
        for (int64_t step = 0; step < steps; step++) {
            int64_t now = begin + step;
            int64_t row = day_row[one * days + now / steps_a_day - first_day] + hour[now];
            double sun_w = sun[now], left_h = lengths[step];
            int asks_spare = asked_w[row * 4 + SPARE] > 0.0;
            for (int turn = 0; left_h > TINY_H && turn < MOST_TURNS; turn++) {
                if (out && turn < CALM_TURNS) {
                    for (int tier = 0; tier < TIERS; tier++)
                        if (out & (1 << tier)) {
                            if (stored_wh < p.return_wh[tier] - p.tiny_wh) break;
                            out &= ~(1 << tier);
                        }
                    if (stored_wh >= p.return_wh[LIFE] - p.tiny_wh) out &= ~(1 << INVERTER);
                }
                Flow flow = flow_of(table, hours, row, sun_w, out, carried_of(out));
                double limit_w = accepted_w(stored_wh, &p);
                int lowest = flow.carried > 1 ? flow.carried - 1 : LIFE;
                if (flow.net_w < -TINY_W && stored_wh <= p.drop_wh[lowest] + p.tiny_wh)
                    while (flow.net_w < -TINY_W) {
                        int leaves = next_out(table, &flow, stored_wh, &p);
                        if (leaves < 0) break;
                        out |= 1 << leaves;
                        flow = flow_of(table, hours, row, sun_w, out, carried_of(out));
                    }
                int64_t served = flow.cell;
                double spare_wh = -1.0;
                if (asks_spare && flow.net_w > 0.0 && flow.carried == TIERS) {
                    int64_t cell = (flow.mode * hours + row) * 5 + SPARE + 1;
                    if (table[cell * COLUMNS + BLOCKED] == 0.0) {
                        double need_w = flow.net_w - (sun_w - table[cell * COLUMNS + DIRECT]);
                        if (flow.net_w - least(flow.net_w, limit_w) >= need_w - TINY_W) served = cell;
                        else if (p.tapers && p.b_per_h > 0.0 && flow.net_w > need_w)
                            spare_wh = (p.a_w - (flow.net_w - need_w)) / p.b_per_h;
                    }
                }
                double span_h = left_h, after_wh;
                if (flow.net_w < 0.0) {
                    double factor = 1.0;
                    if (p.peukert_exponent > 1.0 && -flow.net_w > p.rated_power_w)
                        factor = pow(-flow.net_w / p.rated_power_w, p.peukert_exponent - 1.0);
                    double drain_w = -flow.net_w * factor / p.discharge_efficiency, meets_wh = -1.0;
                    for (int tier = 0; tier < TIERS; tier++)
                        if (meets_wh < p.drop_wh[tier] && p.drop_wh[tier] < stored_wh - p.tiny_wh) meets_wh = p.drop_wh[tier];
                    after_wh = stored_wh - drain_w * span_h;
                    if (meets_wh >= 0.0 && (stored_wh - meets_wh) / drain_w < span_h) {
                        span_h = (stored_wh - meets_wh) / drain_w;
                        after_wh = meets_wh;
                    }
                } else {
                    double into_w = least(flow.net_w, limit_w);
                    after_wh = stored_wh;
                    if (into_w > 0.0) {
                        int rules = flow.net_w >= limit_w - 2.0 * p.b_per_h * p.tiny_wh;
                        int curved = p.tapers && stored_wh >= p.knee_wh - p.tiny_wh && rules;
                        double meets_wh = stored_wh < p.knee_wh - p.tiny_wh ? p.knee_wh : p.capacity_wh;
                        if (flow.carried < TIERS && stored_wh < p.return_wh[flow.carried] - p.tiny_wh)
                            meets_wh = least(meets_wh, p.return_wh[flow.carried]);
                        if (out & (1 << INVERTER) && stored_wh < p.return_wh[LIFE] - p.tiny_wh)
                            meets_wh = least(meets_wh, p.return_wh[LIFE]);
                        if (stored_wh + p.tiny_wh < spare_wh && spare_wh < meets_wh) meets_wh = spare_wh;
                        if (p.tapers && p.b_per_h > 0.0 && !curved) {
                            double crossing_wh = (p.a_w - flow.net_w) / p.b_per_h;
                            if (crossing_wh > p.knee_wh && stored_wh + p.tiny_wh < crossing_wh && crossing_wh < meets_wh)
                                meets_wh = crossing_wh;
                        }
                        after_wh = meets_wh;
                        if (curved) {
                            double needed_h = along_limit_h(stored_wh, meets_wh, &p);
                            if (needed_h < span_h) span_h = needed_h;
                            else after_wh = along_limit_wh(stored_wh, span_h, &p);
                        } else {
                            double gain_w = into_w * p.efficiency;
                            if ((meets_wh - stored_wh) / gain_w < span_h) span_h = (meets_wh - stored_wh) / gain_w;
                            else after_wh = stored_wh + gain_w * span_h;
                        }
                    }
                }
                stored_wh = least(most(after_wh, 0.0), p.capacity_wh);
                double dark_tier = table[served * COLUMNS + DARK_TIER];
                if (dark_tier >= 0.0) {
                    dark_for_h += span_h;
                    if (dark_h < 0.0) dark_h = now_h;
                    if (dark_tier == LIFE && life_dark_h < 0.0) life_dark_h = now_h;
                }
                now_h += span_h;
                left_h -= span_h;
                if (stored_wh < lowest_wh - p.tiny_wh) lowest_wh = stored_wh;
            }
            if (left_h > TINY_H) now_h += left_h;
        }
        double *row = found + one * 5;
        row[0] = dark_h, row[1] = dark_for_h, row[2] = lowest_wh, row[3] = 0.0, row[4] = life_dark_h;
    }
}
