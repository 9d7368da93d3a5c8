"""The trade: values in, values out. No web, database, clock or file code below this line."""
