"""Units of the library as plain values, for tests: a battery, an inverter, a solar panel."""


def battery(name, unit_v, unit_ah, price, **fields):
    return {
        "library_id": name, "name": name, "chemistry": "lfp", "unit_v": unit_v, "unit_ah": unit_ah, "price": price,
        "unit_max_charge_a": 500.0, "unit_max_discharge_a": 5000.0, **fields,
    }  # fmt: skip


def inverter(name, system_v, price, **fields):
    return {
        "library_id": name, "name": name, "price": price, "system_v": system_v, "rated_w": 3000.0, "surge_w": 9000.0,
        "idle_w": 0.0, "efficiency_frac": 1.0, "low_cutoff_v": 0.8 * system_v, "output": "120", **fields,
    }  # fmt: skip


def panel(name, price, **fields):
    return {
        "library_id": name, "name": name, "stc_w": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.8, "imp_a": 12.9,
        "voc_temp_coeff_per_c": -0.0027, "price": price, **fields,
    }  # fmt: skip
