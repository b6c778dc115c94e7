"""Reading a face: what each zone needs, tolerates and carries, and where sculpting is placed."""
