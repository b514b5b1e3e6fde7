MM: int
